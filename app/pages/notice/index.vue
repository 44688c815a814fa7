<script setup lang="ts">
import { spellDate, spellInstant } from '~~/core/calendar/zone'
import { portraitPreset } from '~~/core/notice/portrait-preset'
import { imageKindsOf, imageRuleOf, type DocumentRule, type Notice } from '~~/core/notice/schema'
import type { Bound } from '~~/core/finding/finding'
import { conditionWords } from '~~/core/words/en/conditions'
import { findingWords } from '~~/core/words/en/findings'
import { formatWords } from '~~/core/words/en/lists'
import { capacityOfCity } from '~~/core/seating/seats'

/** The notice in force, read as a sheet. */
useHead({ title: 'Notice · Lucid Roster' })
const cycle = useCycleStore()
const { amount } = useSpelling()
const notice = computed(() => cycle.notice)
const dates = computed(() => notice.value ? Object.entries({
  'Applications open': notice.value.keyDates.opens, 'Applications close': notice.value.keyDates.closes, 'Last moment to pay': notice.value.keyDates.lastPayment, 'Corrections open': notice.value.keyDates.correctionOpens,
  'Corrections close': notice.value.keyDates.correctionCloses, 'Cards from': notice.value.keyDates.cardsFrom,
}) : [])
/** Bounds of a rule, each as the finding that keeps it words it. */
const boundWords = (about: string, bounds: Partial<Record<string, Bound>>) => Object.entries(bounds).flatMap(([code, bound]) => {
  if (!bound) return []
  const { title, bound: spelled } = findingWords({ code: `${about}.${code}`, about, verdict: 'pass', value: 1, unit: code === 'bytes' ? 'bytes' : 'none', bound, parameters: {} })
  return [`${title.toLowerCase()} ${spelled}`]
}).join(', ')
const documentBounds = ({ bytes, pages, pageSide, resolution, letters, blur, contrast, skew }: DocumentRule) => ({ bytes, pages, pageSide, resolution, letters, blur, contrast, skew })
const clauses = Object.values(portraitPreset).map(({ clause }) => clause).join('; ')
/** The notice as a file that can be changed and proposed again. */
function download() {
  if (!notice.value) return
  const url = URL.createObjectURL(new Blob([JSON.stringify(notice.value, null, 2)], { type: 'application/json' }))
  const link = document.createElement('a')
  link.href = url
  link.download = `${notice.value.code}-version-${cycle.version}.json`
  link.click()
  URL.revokeObjectURL(url)
}
const images = computed(() => notice.value ? imageKindsOf(notice.value).map(kind => ({ kind, rule: imageRuleOf(notice.value as Notice, kind) })) : [])
</script>

<template>
  <NoticeFirst v-if="!notice" />
  <div v-else>
    <div class="sheet-row head">
      <div class="body">
        <h1>{{ notice.title }}</h1>
        <p class="soft">
          {{ notice.body.name }} · {{ notice.code }} · version {{ cycle.version }} in force · <button
            class="press"
            @click="download"
          >
            Download (JSON)
          </button>
        </p>
      </div>
      <div class="beside" />
    </div>
    <div class="sheet-row head">
      <div class="body">
        <h2 class="section-title">
          Key dates
        </h2>
        <table class="plain-table">
          <tbody>
            <tr
              v-for="[title, at] in dates"
              :key="title"
            >
              <td class="label">
                {{ title }}
              </td><td>{{ spellInstant(at, notice.body.zone) }}</td>
            </tr>
            <tr><td>Age counts on</td><td>{{ spellDate(notice.keyDates.ageOn) }}</td></tr>
            <tr
              v-for="session in notice.sessions"
              :key="session.id"
            >
              <td>{{ session.title }}</td><td>{{ spellDate(session.date) }}, report {{ session.reporting }}, gate closes {{ session.gateCloses }}, {{ session.starts }} to {{ session.ends }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="beside">
        <p class="soft small window">
          Periods are half open: what arrives at the very second of an end is late. Returns are answered within {{ notice.outcomes.answerDays }} days; what nobody answers is {{ notice.outcomes.unanswered === 'as it stood' ? 'judged as it stands' : 'ended' }}.
        </p>
        <NoticeReviews />
      </div>
    </div>
    <div class="sheet-row head">
      <div class="body">
        <h2 class="section-title">
          Posts
        </h2>
        <div
          v-for="post in notice.posts"
          :key="post.id"
        >
          <h3>{{ post.title }}</h3>
          <p
            v-for="clause in post.clauses"
            :key="clause.code"
            class="clause"
          >
            <span class="soft">{{ clause.clause }}</span><span>{{ clause.text }}</span>
          </p>
        </div>
      </div>
      <div class="beside">
        <p class="soft small">
          Percentages are compared {{ notice.percentageCompared === 'exact' ? 'unrounded' : 'as rounded to two decimals' }}. People born on 29 February have their birthday on {{ notice.leapDayBirthday === 'mar-01' ? '1 March' : '28 February' }} in common years.
        </p>
      </div>
    </div>
    <div class="sheet-row head">
      <div class="body">
        <h2 class="section-title">
          Fees
        </h2>
        <table class="plain-table fees">
          <tbody>
            <tr
              v-for="row in notice.fees.base"
              :key="row.category"
            >
              <td>{{ notice.categories.find(c => c.id === row.category)?.title }}</td><td class="number">
                {{ amount(row.amount) }}
              </td>
            </tr>
            <tr><td>Each further post</td><td class="number">{{ amount(notice.fees.additionalPost) }}</td></tr>
            <tr
              v-for="waiver in notice.fees.waivers"
              :key="waiver.code"
            >
              <td>{{ waiver.title }}</td><td class="number">
                −{{ waiver.percent }} %
              </td>
            </tr>
            <tr v-if="notice.fees.late">
              <td>Late fee from {{ spellInstant(notice.fees.late.from, notice.body.zone) }}</td><td class="number">
                {{ amount(notice.fees.late.amount) }}
              </td>
            </tr>
            <tr
              v-for="line in notice.fees.surcharges"
              :key="line.code"
            >
              <td>{{ line.title }}</td><td class="number">
                {{ amount(line.amount) }}
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="beside" />
    </div>
    <div class="sheet-row head">
      <div class="body">
        <h2 class="section-title">
          Images
        </h2>
        <p
          v-for="{ kind, rule } in images"
          :key="kind"
        >
          <b>{{ rule.title }}</b>: {{ formatWords(rule.formats) }}, {{ (rule.bytes.min ?? 0) / 1024 }} to {{ (rule.bytes.max ?? 0) / 1024 }} KB, {{ rule.width.min }} × {{ rule.height.min }} to {{ rule.width.max }} × {{ rule.height.max }} px, width to height {{ rule.aspect.min }} to {{ rule.aspect.max }}<PictureSwatches :rule="rule" /><span
            v-if="rule.face"
            class="soft small"
          ><br>Face: {{ boundWords('photograph', rule.face) }}<template v-if="rule.preset">. Where the notice states none: {{ rule.preset }}, {{ clauses }}</template><template v-if="rule.sameFace">. Faces are compared with those of the cycle's other candidates, as a hint for scrutiny</template></span>
        </p>
      </div>
      <div class="beside">
        <p class="soft small">
          1 KB = 1024 bytes.
        </p>
      </div>
    </div>
    <div
      v-if="notice.documents.length > 0"
      class="sheet-row head"
    >
      <div class="body">
        <h2 class="section-title">
          Documents
        </h2>
        <p
          v-for="rule in notice.documents"
          :key="rule.id"
        >
          <b>{{ rule.title }}</b>{{ rule.required ? '' : ' (may follow)' }}, {{ rule.when ? `where ${conditionWords(notice, rule.when)}` : 'of everybody' }}: {{ formatWords(rule.formats) }}, {{ boundWords('document', documentBounds(rule)) }}<span
            v-if="rule.shows"
            class="soft small"
          ><br>{{ rule.shows }}</span>
        </p>
      </div>
      <div class="beside">
        <p class="soft small">
          What of these is asked for follows from the answers of the sheet.
        </p>
      </div>
    </div>
    <div class="sheet-row head">
      <div class="body">
        <h2 class="section-title">
          Cities and seats
        </h2>
        <table class="plain-table">
          <thead><tr><th>City</th><th>Island</th><th>Venues</th><th class="number">Seats</th><th class="number">Step-free</th></tr></thead>
          <tbody>
            <tr
              v-for="city in notice.cities"
              :key="city.id"
            >
              <td>{{ city.title }}</td><td>{{ city.island }}</td><td>{{ city.venues.map(v => v.title).join(', ') }}</td>
              <td class="number">
                {{ capacityOfCity(city, notice.sessions).capacity }}
              </td><td class="number">
                {{ capacityOfCity(city, notice.sessions).accessibleCapacity }}
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="beside">
        <p class="soft small">
          Seats over both sessions.
        </p>
      </div>
    </div>
  </div>
</template>

<style scoped>
.clause { display: grid; grid-template-columns: 40px minmax(0, 1fr); padding: 3px 0; }
.window { padding: 24px 0 28px; }
.label { width: 200px; }
.fees { max-width: 560px; }
h3 { margin-top: 10px; }
.body > p + p { margin-top: 8px; }
.body { padding-bottom: 16px !important; }
</style>
