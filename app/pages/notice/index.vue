<script setup lang="ts">
import { spellDate, spellInstant } from '~~/core/calendar/zone'
import { withoutCentres } from '~~/core/notice/centres'
import { portraitPreset } from '~~/core/notice/portrait-preset'
import type { DocumentRule } from '~~/core/notice/file-rules'
import type { Notice } from '~~/core/notice/schema'
import { imageKindsOf, imageRuleOf } from '~~/core/notice/image-rules'
import type { Bound } from '~~/core/finding/finding'
import { capacityOfCity } from '~~/core/seating/seats'

const { conditionWords } = useWords().conditions
const { wayTitles, wayCostWords, orderWords } = useWords().fees
const { severalWaiversWords } = useWords().noticeParts
const { findingWords } = useWords().findings
const { formatWords } = useWords().lists

/** The notice in force, read as a sheet. */
useHead({ title: titled(say('notice.notice')) })
const cycle = useCycleStore()
const { amount } = useSpelling()
const notice = computed(() => cycle.notice)
const dates = computed(() => notice.value ? keyDateLines(notice.value.keyDates) : [])
/** Bounds of a rule, each as the finding that keeps it words it. */
const boundWords = (about: string, bounds: Partial<Record<string, Bound>>) =>
  Object.entries(bounds).flatMap(([code, bound]) => {
    if (!bound) return []
    const { title, bound: spelled } = findingWords({
      code: `${about}.${code}`,
      about,
      verdict: 'pass',
      value: 1,
      unit: code === 'bytes' ? 'bytes' : 'none',
      bound,
      parameters: {},
    })
    return [`${title.toLowerCase()} ${spelled}`]
  }).join(', ')
const documentBounds = ({ bytes, pages, pageSide, resolution, letters, blur, contrast, skew }: DocumentRule) => ({
  bytes,
  pages,
  pageSide,
  resolution,
  letters,
  blur,
  contrast,
  skew,
})
const clauses = Object.values(portraitPreset).map(({ clause }) => clause).join('; ')
const postTitle = (id: string) => notice.value?.posts.find(post => post.id === id)?.title ?? id
const categoryTitle = (id: string) => notice.value?.categories.find(c => c.id === id)?.title ?? id
const session = useSessionStore()
const router = useRouter()
/** Lays the notice in force down as a draft, to be changed and proposed. */
const amend = () =>
  attempt(async () => {
    if (!notice.value) return
    const id = crypto.randomUUID()
    await callApi(`/api/drafts/${id}`, { method: 'PUT', body: { document: withoutCentres(notice.value), revision: 0 } })
    await router.push(`/notice/draft/${id}`)
  })
/** The notice as a file that can be changed and proposed again. */
function download() {
  if (!notice.value) return
  saveFile(`${notice.value.code}-version-${cycle.version}.json`, JSON.stringify(notice.value, null, 2), 'application/json')
}
const images = computed(() =>
  notice.value ? imageKindsOf(notice.value).map(kind => ({ kind, rule: imageRuleOf(notice.value as Notice, kind) })) : []
)
</script>

<template>
  <NoticeFirst v-if="!notice" />
  <div v-else>
    <div class="sheet-row head">
      <div class="body">
        <h1>{{ notice.title }}</h1>
        <p class="soft">
          {{ say('notice.versionInForce', { name: notice.body.name, code: notice.code, version: cycle.version }) }} <button
            class="press"
            @click="download"
          >
            {{ say('notice.downloadJson') }}
          </button> <button
            v-if="session.may('notice.amend')"
            class="press"
            @click="amend"
          >
            {{ say('notice.amendOnTheScreen') }}
          </button>
        </p>
      </div>
      <div class="beside" />
    </div>
    <div class="sheet-row head">
      <div class="body">
        <h2 class="section-title">
          {{ say('notice.keyDates') }}
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
            <tr
              v-for="post in notice.posts.filter(one => one.opens)"
              :key="`${post.id} opens`"
            >
              <td>{{ say('notice.postOpens', { post: post.title }) }}</td><td>{{ spellInstant(post.opens ?? '', notice.body.zone) }}</td>
            </tr>
            <tr
              v-for="post in notice.posts.filter(one => one.closes)"
              :key="post.id"
            >
              <td>{{ say('notice.postCloses', { post: post.title }) }}</td><td>{{ spellInstant(post.closes ?? '', notice.body.zone) }}</td>
            </tr>
            <tr><td>{{ say('notice.ageCountsOn') }}</td><td>{{ spellDate(notice.keyDates.ageOn) }}</td></tr>
            <tr
              v-for="sitting in notice.sessions"
              :key="sitting.id"
            >
              <td>{{ sitting.title }}</td><td>{{ say('notice.reportGateClosesTo', { date: spellDate(sitting.date), reporting: sitting.reporting, gateCloses: sitting.gateCloses, starts: sitting.starts, ends: sitting.ends }) }}</td>
            </tr>
            <tr
              v-for="paper in notice.testPapers"
              :key="paper.id"
            >
              <td>{{ paper.title }}</td><td>{{ say('notice.testPaperHeld', { sessions: notice.sessions.filter(one => paper.sessions.includes(one.id)).map(one => one.title).join(', '), posts: notice.posts.filter(post => post.testPapers.includes(paper.id)).map(post => post.title).join(', ') }) }}</td>
            </tr>
          </tbody>
        </table>
        <p
          v-if="session.may('notice.amend')"
          class="move"
        >
          <NoticeMoveDates :notice="notice" />
        </p>
      </div>
      <div class="beside">
        <p class="soft small window">
          {{ say('notice.periodsAreHalfOpenWhatArrives', { answerDays: notice.outcomes.answerDays, hasUnanswered: String(notice.outcomes.unanswered === 'as it stood') }) }}
        </p>
      </div>
    </div>
    <div class="sheet-row head">
      <div class="body">
        <NoticeVersions
          :notice="notice"
          :version="cycle.version"
        />
      </div>
      <div class="beside">
        <NoticeHandouts
          :key="notice.code"
          :code="notice.code"
        />
      </div>
    </div>
    <NoticeReviews />
    <div class="sheet-row head">
      <div class="body">
        <h2 class="section-title">
          {{ say('notice.posts') }}
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
          {{ say('notice.percentagesAreComparedUnrounded', { percentageCompared: notice.percentageCompared, hasLeapDayBirthday: String(notice.leapDayBirthday === 'mar-01') }) }}
        </p>
      </div>
    </div>
    <div class="sheet-row head">
      <div class="body">
        <h2 class="section-title">
          {{ say('notice.fees') }}
        </h2>
        <table class="plain-table fees">
          <tbody>
            <tr
              v-for="(row, i) in notice.fees.base"
              :key="i"
            >
              <td>{{ row.when ? say('notice.baseFeeWhere', { category: categoryTitle(row.category), when: conditionWords(notice, row.when) }) : categoryTitle(row.category) }}</td><td class="number">
                {{ amount(row.amount) }}
              </td>
            </tr>
            <tr
              v-for="(row, i) in notice.fees.posts"
              :key="`post ${i}`"
            >
              <td>{{ row.when ? say('notice.baseFeeWhere', { category: postTitle(row.post), when: conditionWords(notice, row.when) }) : postTitle(row.post) }}</td><td class="number">
                {{ amount(row.amount) }}
              </td>
            </tr>
            <tr
              v-for="row in notice.fees.further"
              :key="`further ${row.from}`"
            >
              <td>{{ say('notice.eachFurtherPost', { from: row.from }) }}</td><td class="number">
                {{ amount(row.amount) }}
              </td>
            </tr>
            <tr
              v-for="waiver in notice.fees.waivers"
              :key="waiver.code"
            >
              <td>{{ waiver.title }}</td><td class="number">
                −{{ waiver.percent }} %
              </td>
            </tr>
            <tr
              v-for="period in notice.fees.late"
              :key="period.from"
            >
              <td>{{ say('notice.lateFeeFrom', { zone: spellInstant(period.from, notice.body.zone) }) }}</td><td class="number">
                {{ amount(period.amount) }}
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
            <tr
              v-for="payer in notice.fees.payers"
              :key="payer.code"
            >
              <td colspan="2">
                {{ say('notice.paysFor', { payer: payer.title, when: conditionWords(notice, payer.when) }) }}
              </td>
            </tr>
            <tr
              v-for="channel in notice.fees.channels"
              :key="channel.way"
            >
              <td>{{ say('notice.paidBy', { way: wayTitles[channel.way] }) }}</td><td class="number">
                {{ wayCostWords(channel, amount) }}
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="beside">
        <p class="soft small">
          {{ orderWords[notice.fees.order] }}
        </p>
        <p
          v-if="notice.fees.waivers.length > 1"
          class="soft small"
        >
          {{ severalWaiversWords[notice.fees.severalWaivers] }}
        </p>
      </div>
    </div>
    <div class="sheet-row head">
      <div class="body">
        <h2 class="section-title">
          {{ say('notice.images') }}
        </h2>
        <p
          v-for="{ kind, rule } in images"
          :key="kind"
        >
          <b>{{ rule.title }}</b>{{ say('notice.toKbToPxWidthTo', { formats: formatWords(rule.formats), min: (rule.bytes.min ?? 0) / 1024, max: (rule.bytes.max ?? 0) / 1024, min2: rule.width.min, min3: rule.height.min, max2: rule.width.max, max3: rule.height.max, min4: rule.aspect.min, max4: rule.aspect.max }) }}<PictureSwatches :rule="rule" /><span
            v-if="rule.face"
            class="soft small"
          ><br>{{ say('notice.face', { face: boundWords('photograph', rule.face) }) }}<template v-if="rule.preset">{{ say('notice.whereTheNoticeStatesNone', { preset: rule.preset, clauses }) }}</template><template v-if="rule.sameFace">{{ say('notice.facesAreComparedWithThoseOf') }}</template></span>
        </p>
      </div>
      <div class="beside">
        <p class="soft small">
          {{ say('notice.n1Kb1024Bytes') }}
        </p>
      </div>
    </div>
    <div
      v-if="notice.documents.length > 0"
      class="sheet-row head"
    >
      <div class="body">
        <h2 class="section-title">
          {{ say('notice.documents') }}
        </h2>
        <p
          v-for="rule in notice.documents"
          :key="rule.id"
        >
          <b>{{ rule.title }}</b>{{ rule.required ? '' : say('notice.mayFollow') }}, {{ rule.when ? say('notice.where', { when: conditionWords(notice, rule.when) }) : say('notice.ofEverybody') }}: {{ formatWords(rule.formats) }}, {{ boundWords('document', documentBounds(rule)) }}<span
            v-if="rule.shows"
            class="soft small"
          ><br>{{ rule.shows }}</span>
        </p>
      </div>
      <div class="beside">
        <p class="soft small">
          {{ say('notice.whatOfTheseIsAskedFor') }}
        </p>
      </div>
    </div>
    <div class="sheet-row head">
      <div class="body">
        <h2 class="section-title">
          {{ say('notice.citiesAndSeats') }}
        </h2>
        <table class="plain-table">
          <thead><tr><th>{{ say('notice.city') }}</th><th>{{ say('notice.island') }}</th><th>{{ say('notice.venues') }}</th><th class="number">{{ say('notice.seats') }}</th><th class="number">{{ say('notice.stepFree') }}</th></tr></thead>
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
          {{ say('notice.seatsOverBothSessions') }}
        </p>
      </div>
    </div>
  </div>
</template>

<style scoped>
.clause { display: grid; grid-template-columns: 40px minmax(0, 1fr); padding: 3px 0; }
.window { padding: 24px 0 28px; }
.label { width: 200px; }
.move { padding-top: 12px; }
.fees { max-width: 560px; }
h3 { margin-top: 10px; }
.body > p + p { margin-top: 8px; }
.body { padding-bottom: 16px !important; }
</style>
