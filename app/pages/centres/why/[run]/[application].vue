<script setup lang="ts">
import type { WhyView } from '~~/shared/centres'
import { policyTitles } from '~~/core/words/en/allocation'

/** Why somebody is where a run put them: in words for the person on the sheet, in figures for the office beside it. */
const route = useRoute()
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const view = shallowRef<WhyView | null>(null)
const moving = ref(false)
const run = String(route.params.run)
useHead({ title: () => `Why here? ${view.value?.person.number ?? ''} · Lucid Roster` })
const { failure } = useLoaded(async () => {
  view.value = await callApi<WhyView>(`/api/runs/${run}/why/${String(route.params.application)}`)
})
const copied = ref(false)
async function copy() {
  await navigator.clipboard.writeText(view.value?.words.join('\n\n') ?? '')
  copied.value = true
}
const points = (n: number) => `${n.toLocaleString('en-GB')} ${n === 1 ? 'point' : 'points'}`
</script>

<template>
  <p
    v-if="failure"
    class="page note is-refusal"
  >
    {{ failure }} <NuxtLink to="/centres">To the runs</NuxtLink>
  </p>
  <template v-else-if="view">
    <div class="sheet-row grow">
      <div class="body">
        <p class="soft">
          <NuxtLink :to="`/centres/${run}`">Run {{ view.serial }}</NuxtLink> · {{ policyTitles[view.why.policy] }}
        </p>
        <h1>Why is {{ view.person.name }} {{ view.person.city ? `in ${spelling.city(view.person.city)}` : 'without a seat' }}?</h1>
        <div class="letter">
          <p
            v-for="(paragraph, i) in view.words"
            :key="i"
          >
            {{ paragraph }}
          </p>
        </div>
      </div>
      <div class="beside">
        <h2>The person</h2>
        <dl>
          <dt>Application</dt><dd><NuxtLink :to="`/intake/${view.person.applicationId}`">{{ view.person.number }}</NuxtLink></dd>
          <dt>Home city</dt><dd>{{ spelling.city(view.person.home) }}</dd>
          <dt>Needs an accessible seat</dt><dd>{{ view.person.needs ? 'yes' : 'no' }}</dd>
          <dt v-if="view.person.place">
            Number in line
          </dt><dd v-if="view.person.place">
            {{ view.person.place.toLocaleString('en-GB') }}
          </dd>
        </dl>
        <h2>The list</h2>
        <table class="plain-table">
          <thead>
            <tr>
              <th>choice</th><th>city</th><th class="number">
                {{ view.why.policy === 'best-fit' ? 'own loss' : 'own number' }}
              </th><th class="number">
                {{ view.why.policy === 'best-fit' ? 'needed' : 'closed at' }}
              </th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="(city, i) in view.person.choices"
              :key="city"
              :class="{ got: city === view.person.city }"
            >
              <td>{{ i + 1 }}</td><td>{{ city === view.person.city ? '● ' : '' }}{{ spelling.city(city) }}</td>
              <template v-if="view.why.before[i]?.city === city">
                <td class="number">
                  {{ view.why.before[i].why.by === 'stake' || view.why.before[i].why.by === 'turn' ? view.why.before[i].why.own.toLocaleString('en-GB') : '–' }}
                </td>
                <td class="number">
                  {{ view.why.before[i].why.by === 'stake' ? view.why.before[i].why.bar.toLocaleString('en-GB') : view.why.before[i].why.by === 'turn' ? view.why.before[i].why.closedAt.toLocaleString('en-GB') : '–' }}
                </td>
              </template>
              <template v-else>
                <td class="number soft">
                  –
                </td><td class="number soft">
                  –
                </td>
              </template>
            </tr>
            <tr
              v-if="view.person.city && !view.person.choices.includes(view.person.city)"
              class="got"
            >
              <td>–</td><td>● {{ spelling.city(view.person.city) }}</td><td
                class="number"
                colspan="2"
              >
                {{ view.person.km }} km from home
              </td>
            </tr>
          </tbody>
        </table>
        <p class="soft small">
          This placement costs {{ points(view.why.cost) }}. {{ view.why.policy === 'best-fit' ? 'Own loss: what the person would lose with that city, in points. Needed: the price of a seat there in this run.' : 'Numbers in the order of being served.' }}
        </p>
      </div>
    </div>
    <div class="action-bar">
      <NuxtLink :to="`/centres/${run}`">Back to the run</NuxtLink>
      <ElButton
        class="push"
        @click="attempt(copy)"
      >
        {{ copied ? 'Copied' : 'Copy for a letter' }}
      </ElButton>
      <ElButton
        v-if="session.may('centres.run')"
        @click="moving = true"
      >
        Place by hand
      </ElButton>
    </div>
    <CentresMoveDialog
      v-if="cycle.notice"
      v-model="moving"
      :run="run"
      :person="view.person"
    />
  </template>
</template>

<style scoped>
.grow { flex: 1; }
.body, .beside { padding-top: 18px !important; padding-bottom: 24px !important; }
.letter { max-width: 64ch; font-size: 18px; line-height: 1.5; margin-top: 16px; }
.letter p { margin-bottom: 14px; }
dl { display: grid; grid-template-columns: auto 1fr; gap: 3px 14px; margin: 6px 0 16px; }
dt { color: var(--ink-soft); }
dd { margin: 0; }
.got td { background: var(--accent-soft); font-weight: 600; }
h2 { margin-bottom: 4px; }
</style>
