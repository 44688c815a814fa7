<script setup lang="ts">
import { dateInZone } from '~~/core/calendar/zone'
import { spellAmount } from '~~/core/fees/assess'
import type { Question } from '~~/core/notice/schema'

/** The draft, tried with some thousand invented people, spread as the officer says; nothing of it is kept. */
const { draft } = useNoticeEditor()
const { findingWords } = useWords().findings
const notice = computed(() => draft.sound.value)
const { rehearsal, done, failed, run } = useRehearsal()
const people = ref(2000)
const seed = ref(1)
const age = reactive({ from: 16, most: 22, to: 40 })
const marks = reactive({ from: 35, most: 60, to: 98 })
/** How often each option is taken, against its neighbours; 1 where nothing was said. */
const options = reactive<Record<string, Record<string, number>>>({})
const cities = ref<Record<string, number>>({})
const bells = [{ title: say('edit.ages'), bell: age, most: 99 }, { title: say('edit.marksInPercent'), bell: marks, most: 100 }]

type Choice = Extract<Question, { kind: 'choice' }>
const choices = computed(() =>
  notice.value?.sections.flatMap(s => s.questions).filter((q): q is Choice => q.kind === 'choice' && q.options.length > 1) ?? []
)
function start() {
  const current = notice.value
  if (current) {
    run(
      current,
      { people: Math.min(50_000, Math.max(1, Math.round(people.value) || 1)), age, marks, options, cities: cities.value },
      dateInZone(new Date(current.keyDates.opens), current.body.zone),
      seed.value,
    )
  }
}
const amount = (minor: number) => notice.value ? spellAmount(minor, notice.value.body.currency) : ''
const share = (n: number, of: number) => of === 0 ? '–' : `${Math.round(1000 * n / of) / 10} %`
const fullest = computed(() =>
  [...rehearsal.value?.cities ?? []].sort((a, b) => b.first / Math.max(1, b.seats) - a.first / Math.max(1, a.seats))
)
</script>

<template>
  <section class="rehearse">
    <h2 class="section-title">
      {{ say('edit.rehearsal') }}
    </h2>
    <p class="soft small">
      {{ notice ? say('edit.rehearsalHelp') : say('edit.tryWaits') }}
    </p>
    <template v-if="notice">
      <div class="bells">
        <label>{{ say('edit.people') }} <input
          v-model.number="people"
          class="field"
          type="number"
          min="1"
          max="50000"
        ></label>
        <fieldset
          v-for="one in bells"
          :key="one.title"
        >
          <legend>{{ one.title }}</legend>
          <label
            v-for="part in (['from', 'most', 'to'] as const)"
            :key="part"
          >{{ say('edit.bellPart', { part }) }} <input
            v-model.number="one.bell[part]"
            class="field"
            type="number"
            min="0"
            :max="one.most"
          ></label>
        </fieldset>
        <label>{{ say('edit.drawNumber') }} <input
          v-model.number="seed"
          class="field"
          type="number"
          min="1"
          max="999999"
        ></label>
      </div>
      <details>
        <summary>{{ say('edit.howOften') }}</summary>
        <p class="soft small">
          {{ say('edit.howOftenHelp') }}
        </p>
        <div class="weights">
          <EditWeights
            v-for="question in choices"
            :key="question.id"
            :title="question.label"
            :members="question.options"
            :model-value="options[question.id] ?? {}"
            @update:model-value="options[question.id] = $event"
          />
          <EditWeights
            v-model="cities"
            :title="say('edit.homeCities')"
            :members="notice.cities"
          />
        </div>
      </details>
      <p>
        <ElButton
          type="primary"
          :loading="done !== null"
          @click="start"
        >
          {{ say('edit.rehearse') }}
        </ElButton> <span
          v-if="done !== null"
          role="status"
          class="soft"
        >{{ say('edit.triedSoFar', { done: countText(done) }) }}</span>
      </p>
      <HouseAlert
        :text="failed"
        kind="refusal"
      />
    </template>
    <template v-if="rehearsal && notice">
      <p
        class="note"
        role="status"
      >
        {{ say('edit.couldHandIn', { complete: countText(rehearsal.complete), people: countText(rehearsal.people), share: share(rehearsal.complete, rehearsal.people) }) }}
        {{ say('edit.noPostOpen', { n: rehearsal.noPost }) }}
        {{ say('edit.comesIn', { total: amount(Math.round(rehearsal.fees.total * rehearsal.scale)), scale: String(rehearsal.scale !== 1), least: amount(rehearsal.fees.least), most: amount(rehearsal.fees.most) }) }}
      </p>
      <template v-if="rehearsal.faults.length > 0">
        <h3>{{ say('edit.cannotAnswer') }}</h3>
        <p
          v-for="fault in rehearsal.faults.slice(0, 12)"
          :key="fault.finding.about + fault.finding.code"
        >
          <b>{{ countText(fault.n) }}</b> {{ findingWords(fault.finding).title }}
        </p>
      </template>
      <h3>{{ say('edit.whoMayEnter') }}</h3>
      <table class="plain-table">
        <thead>
          <tr><th>{{ say('edit.post') }}</th><th class="number">{{ say('edit.mayEnter') }}</th><th class="number">{{ say('edit.notSure') }}</th><th class="number">{{ say('edit.chosenBy') }}</th><th>{{ say('edit.shutBy') }}</th></tr>
        </thead>
        <tbody>
          <tr
            v-for="post in rehearsal.posts"
            :key="post.id"
            :class="{ attention: post.open + post.unsure === 0 }"
          >
            <td>{{ post.title }}</td><td class="number">
              {{ share(post.open, rehearsal.people) }}
            </td><td class="number">
              {{ share(post.unsure, rehearsal.people) }}
            </td><td class="number">
              {{ share(post.chosen, rehearsal.people) }}
            </td><td>
              <span
                v-for="why in post.why.slice(0, 3)"
                :key="why.clause"
                class="small why"
                :title="why.text"
              >{{ why.clause }}: {{ share(why.n, rehearsal.people) }}</span>
            </td>
          </tr>
        </tbody>
      </table>
      <h3>{{ say('edit.whichCitiesFill') }}</h3>
      <p class="soft small">
        {{ say('edit.placedAs', { first: share(rehearsal.choices.first, rehearsal.complete), other: share(rehearsal.choices.other, rehearsal.complete), offList: share(rehearsal.choices.offList, rehearsal.complete), none: share(rehearsal.choices.none, rehearsal.complete) }) }}
      </p>
      <table class="plain-table">
        <thead>
          <tr><th>{{ say('edit.city') }}</th><th class="number">{{ say('edit.wantItFirst') }}</th><th class="number">{{ say('edit.seats') }}</th><th class="number">{{ say('edit.taken') }}</th></tr>
        </thead>
        <tbody>
          <tr
            v-for="city in fullest"
            :key="city.id"
            :class="{ attention: city.first > city.seats }"
          >
            <td>{{ city.title }}</td><td class="number">
              {{ countText(city.first) }}
            </td><td class="number">
              {{ countText(city.seats) }}
            </td><td class="number">
              {{ share(city.placed, city.seats) }}
            </td>
          </tr>
        </tbody>
      </table>
      <template v-if="rehearsal.fees.byCategory.length > 0">
        <h3>{{ say('edit.whatComesIn') }}</h3>
        <table class="plain-table">
          <tbody>
            <tr
              v-for="one in rehearsal.fees.byCategory"
              :key="one.id"
            >
              <td>{{ one.title }}</td><td class="number">
                {{ countText(Math.round(one.n * rehearsal.scale)) }}
              </td><td class="number">
                {{ amount(Math.round(one.sum * rehearsal.scale)) }}
              </td>
            </tr>
          </tbody>
        </table>
      </template>
      <template v-if="rehearsal.rare.length > 0">
        <h3>{{ say('edit.askedOfFew') }}</h3>
        <p
          v-for="one in rehearsal.rare"
          :key="one.id"
        >
          <b>{{ countText(one.n) }}</b> {{ one.title }}
        </p>
      </template>
    </template>
  </section>
</template>

<style scoped>
.rehearse { margin-top: 26px; }
.bells, .weights { display: flex; flex-wrap: wrap; gap: 10px 26px; align-items: end; }
fieldset { border: 0; padding: 0; margin: 0; display: flex; flex-wrap: wrap; gap: 6px 12px; align-items: end; }
legend { font-weight: 600; padding: 0; }
input { width: 84px; }
details { margin: 12px 0; }
h3 { margin: 18px 0 4px; }
.why + .why { margin-left: 14px; }
</style>
