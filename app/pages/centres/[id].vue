<script setup lang="ts">
import type { RunDetail } from '~~/shared/centres'

/** One run: who got which choice, city by city, its proof, and its publication. */
const route = useRoute()
const router = useRouter()
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const run = shallowRef<RunDetail | null>(null)
const failure = ref('')
const asking = ref(false)
const busy = ref(false)
const id = String(route.params.id)
const chosen = computed(() => typeof route.query.city === 'string' ? route.query.city : null)
useHead({ title: () => `Run ${run.value?.serial ?? ''} · Lucid Roster` })

async function load() {
  try {
    run.value = await callApi<RunDetail>(`/api/runs/${id}`, { query: { city: chosen.value ?? undefined } })
  } catch (error) {
    failure.value = problemText(error)
  }
}
watch(chosen, load, { immediate: true })
const choose = (city: string | null) => router.replace({ query: city ? { city } : {} })
const rows = computed(() => [...(run.value?.summary.cities ?? [])].sort((a, b) => b.firstChoice - a.firstChoice))

async function publish() {
  if (busy.value) return
  busy.value = true
  await attempt(async () => {
    const { seated, leftOut } = await callApi<{ seated: number, leftOut: number }>(`/api/runs/${id}/publish`, { method: 'POST' })
    ElMessage({ message: `${seated} people have their seat and roll number${leftOut > 0 ? `; ${leftOut} are no longer waiting and were left out` : ''}.`, type: 'success' })
    asking.value = false
  })
  busy.value = false
  await load()
  await cycle.refreshBand().catch(() => undefined)
}
</script>

<template>
  <p
    v-if="failure"
    class="page note is-refusal"
  >
    {{ failure }} <NuxtLink to="/centres">To the runs</NuxtLink>
  </p>
  <template v-else-if="run && cycle.notice">
    <div class="sheet-row grow">
      <div class="body">
        <h1>Run {{ run.serial }}</h1>
        <p class="soft">
          {{ run.summary.candidates }} people, {{ spelling.instant(run.at) }} by {{ run.by }} · {{ run.publishedAt ? `published ${spelling.instant(run.publishedAt)} by ${run.publishedBy}` : 'not published' }}
        </p>
        <div class="two">
          <CentresChoiceBars :summary="run.summary" />
          <CentresCityMap
            :cities="cycle.notice.cities"
            :figures="run.summary.cities"
            :chosen="chosen"
            @choose="choose"
          />
        </div>
        <h2 class="section-title people-head">
          {{ chosen ? `${run.people.length} people in ${spelling.city(chosen)}` : `${run.people.length} people off their list` }}
          <button
            v-if="chosen"
            class="link"
            @click="choose(null)"
          >
            show those off their list
          </button>
        </h2>
        <p
          v-if="run.people.length === 0"
          class="soft"
        >
          {{ chosen ? 'This run placed nobody here.' : 'Nobody: everyone has a city they named. Press a city for its people.' }}
        </p>
        <table
          v-else
          class="plain-table"
        >
          <thead><tr><th>number</th><th>name</th><th>placed in</th><th>which choice</th><th>choices named</th></tr></thead>
          <tbody>
            <tr
              v-for="person in run.people"
              :key="person.number"
            >
              <td><NuxtLink :to="`/intake/${person.applicationId}`">{{ person.number }}</NuxtLink></td>
              <td>{{ person.name }}</td><td>{{ person.city ? spelling.city(person.city) : 'no seat' }}</td>
              <td>{{ person.choice ? `choice ${person.choice}` : `off the list, ${person.cost} points` }}</td>
              <td class="soft">
                {{ person.choices.map(spelling.city).join(' › ') }}
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="beside">
        <h2>Proof</h2>
        <p
          v-if="run.certified"
          class="settled"
        >
          <b>✓ Cost {{ run.cost }} = bound {{ run.bound }}</b>
        </p>
        <p
          v-else
          class="refusal"
        >
          <b>✕ Cost {{ run.cost }} is not the bound {{ run.bound }}: this run is not proven and cannot be published.</b>
        </p>
        <p class="soft small">
          No allocation of these people to these seats costs less than the bound. Inputs {{ run.inputsSha256.slice(0, 12) }}.
        </p>
        <h2>Cities</h2>
        <table class="plain-table cities">
          <thead><tr><th>city</th><th class="number">first choices</th><th class="number">placed</th><th class="number">seats</th><th class="number">price</th></tr></thead>
          <tbody>
            <tr
              v-for="row in rows"
              :key="row.city"
              :class="{ chosen: chosen === row.city }"
            >
              <td>
                <button
                  class="link"
                  @click="choose(row.city)"
                >
                  {{ spelling.city(row.city) }}
                </button>
              </td>
              <td
                class="number"
                :class="{ attention: row.firstChoice > row.capacity }"
              >
                {{ row.firstChoice > row.capacity ? '▲ ' : '' }}{{ row.firstChoice }}
              </td>
              <td class="number">
                {{ row.placed }}
              </td><td class="number">
                {{ row.capacity }}
              </td><td class="number">
                {{ row.capacity > 0 ? row.price : '–' }}
              </td>
            </tr>
          </tbody>
        </table>
        <p class="soft small">
          ▲ more first choices than seats. Price: points of cost that one more seat there would save.
        </p>
      </div>
    </div>
    <div class="action-bar">
      <NuxtLink to="/centres">All runs</NuxtLink>
      <ElButton
        v-if="!run.publishedAt && run.certified && session.may('centres.publish')"
        class="push"
        type="primary"
        @click="asking = true"
      >
        Publish run {{ run.serial }}
      </ElButton>
      <ElButton
        v-else-if="run.publishedAt && session.may('cards.issue')"
        class="push"
        type="primary"
        @click="router.push('/cards')"
      >
        To the cards
      </ElButton>
    </div>
    <ElDialog
      v-model="asking"
      :title="`Publish run ${run.serial}`"
      width="min(560px, 94vw)"
    >
      <p>{{ run.summary.candidates - run.summary.unseated }} people get their centre, session, seat and roll number. Once published, later runs leave them where they are.</p>
      <template #footer>
        <ElButton @click="asking = false">
          Not yet
        </ElButton>
        <ElButton
          type="primary"
          :loading="busy"
          @click="publish"
        >
          Publish
        </ElButton>
      </template>
    </ElDialog>
  </template>
</template>

<style scoped>
.grow { flex: 1; }
.body { padding-top: 18px !important; padding-bottom: 24px !important; }
.beside { padding-top: 18px !important; }
.two { display: grid; grid-template-columns: minmax(280px, 340px) minmax(0, 1fr); gap: 24px; margin: 16px 0; align-items: start; }
.people-head { margin-top: 20px; display: flex; gap: 16px; align-items: baseline; }
.beside h2 { margin: 4px 0; }
.beside h2 + p { margin-bottom: 4px; }
.cities { font-size: 14px; margin-top: 4px; }
.cities td, .cities th { padding: 3px 8px 3px 0; }
.chosen td { background: var(--accent-soft); }
.link { font: inherit; color: var(--accent); background: none; border: 0; padding: 0; cursor: pointer; text-decoration: underline; text-underline-offset: 3px; }
@media (max-width: 1100px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
