<script setup lang="ts">
import type { WhyView } from '~~/shared/centres'

const { policyTitles } = useWords().allocation

/** Why somebody is where a run put them: in words for the person on the sheet, in figures for the office beside it. */
const route = useRoute()
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const view = shallowRef<WhyView | null>(null)
const moving = ref(false)
const run = String(route.params.run)
useHead({ title: () => titled(say('centres.whyHereTitle', { number: view.value?.person.number ?? '' })) })
const { failure } = useLoaded(async () => {
  view.value = await callApi<WhyView>(`/api/runs/${run}/why/${String(route.params.application)}`)
})
/** The cities that were asked for with what was needed there, and the one that was given where it is none of them. */
const cities = computed(() => {
  if (!view.value) return []
  const { person, why } = view.value
  const asked = person.choices.map((city, i) => {
    const found = why.before[i]?.city === city ? why.before[i].why : null
    const [own, bar] = found?.by === 'stake' ? [found.own, found.bar] : found?.by === 'turn' ? [found.own, found.closedAt] : [null, null]
    return { city, choice: i + 1, isGot: city === person.city, own, bar }
  })
  return person.city === null || person.choices.includes(person.city)
    ? asked
    : [...asked, { city: person.city, choice: null, isGot: true, own: null, bar: null }]
})
const copied = ref(false)
async function copy() {
  await navigator.clipboard.writeText(view.value?.words.join('\n\n') ?? '')
  copied.value = true
}
const points = (n: number) => say('centres.pointsCounted', { n: countText(n), points: n })
</script>

<template>
  <p
    v-if="failure"
    class="page note is-refusal"
  >
    {{ failure }} <NuxtLink to="/centres">{{ say('centres.toTheRuns') }}</NuxtLink>
  </p>
  <template v-else-if="view">
    <div class="sheet-row grow">
      <div class="body">
        <p class="soft">
          <NuxtLink :to="`/centres/${run}`">{{ say('centres.run', { serial: view.serial }) }}</NuxtLink> · {{ policyTitles[view.why.policy] }}
        </p>
        <h1>{{ say('centres.whyIsSomebodyIn', { name: view.person.name, hasCity: String(Boolean(view.person.city)), city: spelling.city(view.person.city) }) }}</h1>
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
        <h2>{{ say('centres.thePerson') }}</h2>
        <dl>
          <dt>{{ say('centres.application') }}</dt><dd><NuxtLink :to="`/intake/${view.person.applicationId}`">{{ view.person.number }}</NuxtLink></dd>
          <dt>{{ say('centres.homeCity') }}</dt><dd>{{ spelling.city(view.person.home) }}</dd>
          <dt>{{ say('centres.needsAnAccessibleSeat') }}</dt><dd>{{ view.person.needs ? 'yes' : 'no' }}</dd>
          <dt v-if="view.person.place">
            {{ say('centres.numberInLine') }}
          </dt><dd v-if="view.person.place">
            {{ countText(view.person.place) }}
          </dd>
        </dl>
        <h2>{{ say('centres.theList') }}</h2>
        <HouseTable
          :columns="[
            { key: 'choice', title: say('centres.choiceColumn'), text: row => row.choice ?? '–' },
            { key: 'city', title: say('centres.city'), text: row => `${row.isGot ? '● ' : ''}${spelling.city(row.city)}` },
            {
              key: 'own',
              title: view.why.policy === 'best-fit' ? say('centres.ownLoss') : say('centres.ownNumber'),
              kind: 'number',
              text: row => row.own === null ? '–' : countText(row.own),
            },
            {
              key: 'bar',
              title: view.why.policy === 'best-fit' ? say('centres.needed') : say('centres.closedAt'),
              kind: 'number',
              text: row => row.choice === null ? say('centres.kmFromHomeCounted', { km: view?.person.km ?? 0 }) : row.bar === null ? '–' : countText(row.bar),
            },
          ]"
          :rows="cities"
          :row-key="row => row.city"
          :row-look="row => row.isGot ? 'got' : ''"
        />
        <p class="soft small">
          {{ say('centres.thisPlacementCosts', { cost: points(view.why.cost), together: String(view.why.policy === 'best-fit') }) }}
        </p>
      </div>
    </div>
    <div class="action-bar">
      <NuxtLink :to="`/centres/${run}`">{{ say('centres.backToTheRun') }}</NuxtLink>
      <ElButton
        class="push"
        @click="attempt(copy)"
      >
        {{ copied ? say('centres.copied') : say('centres.copyForALetter') }}
      </ElButton>
      <ElButton
        v-if="session.may('centres.run')"
        @click="moving = true"
      >
        {{ say('centres.placeByHand') }}
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
:deep(.got td) { background: var(--accent-soft); font-weight: 600; }
h2 { margin-bottom: 4px; }
</style>
