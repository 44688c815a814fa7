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
        <table class="plain-table">
          <thead>
            <tr>
              <th>{{ say('centres.choiceColumn') }}</th><th>{{ say('centres.city') }}</th><th class="number">
                {{ view.why.policy === 'best-fit' ? say('centres.ownLoss') : say('centres.ownNumber') }}
              </th><th class="number">
                {{ view.why.policy === 'best-fit' ? say('centres.needed') : say('centres.closedAt') }}
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
                  {{ view.why.before[i].why.by === 'stake' || view.why.before[i].why.by === 'turn' ? countText(view.why.before[i].why.own) : '–' }}
                </td>
                <td class="number">
                  {{ view.why.before[i].why.by === 'stake' ? countText(view.why.before[i].why.bar) : view.why.before[i].why.by === 'turn' ? countText(view.why.before[i].why.closedAt) : '–' }}
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
                {{ say('centres.kmFromHomeCounted', { km: view.person.km }) }}
              </td>
            </tr>
          </tbody>
        </table>
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
.got td { background: var(--accent-soft); font-weight: 600; }
h2 { margin-bottom: 4px; }
</style>
