<script setup lang="ts">
import type { Difference } from '~~/core/notice/difference'
import type { Headline } from '~~/core/application/tracks'
import type { Acceptance, ReviewDetail } from '~~/shared/eligibility'

const { verdictShapes } = useWords().work
const { postVerdictWords } = useWords().explanation

/** What a review would change, verdict by verdict, before anybody accepts it. */
const route = useRoute()
const cycle = useCycleStore()
const amendmentWords = (difference: Difference) => cycle.notice ? useWords().differences.differenceWords(cycle.notice, difference) : ''
const session = useSessionStore()
const spelling = useSpelling()
const id = String(route.params.id)
const review = shallowRef<ReviewDetail | null>(null)
const rows = shallowRef<ReviewDetail['differences']>([])
const only = ref<'all' | 'chosen'>('all')
const post = ref('')
useHead({ title: () => titled(say('notice.review', { serial: review.value?.serial ?? '' })) })

const fees = shallowRef<ReviewDetail['feeChanges']['rows']>([])
const seats = shallowRef<ReviewDetail['seatChanges']['rows']>([])
const accepting = ref(false)
const isAmendment = computed(() => review.value !== null && review.value.version !== review.value.baseVersion)

async function loadFees(afterFee?: string) {
  const { feeChanges } = await callApi<ReviewDetail>(`/api/reviews/${id}`, { query: { afterFee, limit: 100 } })
  fees.value = [...fees.value, ...feeChanges.rows]
  if (review.value) review.value = { ...review.value, feeChanges }
}
async function loadSeats(afterSeat?: string) {
  const { seatChanges } = await callApi<ReviewDetail>(`/api/reviews/${id}`, { query: { afterSeat, limit: 100 } })
  seats.value = [...seats.value, ...seatChanges.rows]
  if (review.value) review.value = { ...review.value, seatChanges }
}
async function load(after?: string) {
  const page = await callApi<ReviewDetail>(`/api/reviews/${id}`, {
    query: { after, post: post.value || undefined, chosen: only.value === 'chosen' ? 'yes' : undefined },
  })
  rows.value = after ? [...rows.value, ...page.differences] : page.differences
  // Pages of fees and seats that were loaded stay while verdicts are paged.
  review.value = after && review.value ? { ...page, feeChanges: review.value.feeChanges, seatChanges: review.value.seatChanges } : page
  if (after) return
  fees.value = page.feeChanges.rows
  seats.value = page.seatChanges.rows
}
const { busy, refusal, send } = useSubmission()
function settle(act: 'accept' | 'discard', body: Acceptance = {}) {
  return send(async () => {
    const done = await callApi<
      { leftOut: number, sentBack: number, seats: Record<'moved' | 'without' | 'anotherHour', number>, from: string | null } | null
    >(`/api/reviews/${id}/${act}`, { method: 'POST', body })
    accepting.value = false
    if (done?.from) tell(say('notice.agreed', { at: spelling.instant(done.from) }), 'success')
    else if (done) {
      tell(
        say('notice.acceptedAcceptedApplicationsAreBack', {
          sentBack: done.sentBack,
          hasLeftOut: String(done.leftOut > 0),
          leftOut: done.leftOut,
          ...done.seats,
        }),
        'success',
      )
    }
    await cycle.load(true)
    await load()
  })
}
watch([only, post], () => {
  attempt(load)
})
const feeTotal = (n: number, minor: number) => n === 0 ? '0' : say('notice.inAll', { n: countText(n), amount: spelling.amount(minor) })
/** While the list is being made, the page says how far it is and shows it when it is there. */
const work = useJob('review', () => attempt(load))
const { failure } = useLoaded(async () => {
  await load()
  if (review.value?.state !== 'running') return
  await work.find()
  if (!work.live.value) await load()
})
</script>

<template>
  <p
    v-if="failure"
    class="page note is-refusal"
  >
    {{ failure }} <NuxtLink to="/notice">{{ say('notice.toTheNotice') }}</NuxtLink>
  </p>
  <template v-else-if="review">
    <div class="sheet-row grow">
      <div class="body">
        <h1>{{ say('notice.reviewAllJudgedAgain', { serial: review.serial, hasVersion: String(review.version === review.baseVersion), version: review.version }) }}</h1>
        <p class="soft">
          {{ say('notice.againstVersionBy', { baseVersion: review.baseVersion, by: review.by, at: spelling.instant(review.at) }) }}
        </p>
        <p
          v-if="review.reason"
          class="why"
        >
          {{ say('notice.whyAmended', { reason: review.reason }) }}
        </p>
        <HouseAlert
          :text="refusal"
          kind="refusal"
        />
        <div
          v-if="review.amendments.length > 0"
          class="note amendments"
        >
          <p
            v-for="(difference, i) in review.amendments"
            :key="i"
          >
            {{ amendmentWords(difference) }}
          </p>
        </div>
        <JobsProgress
          :job="work.job.value"
          :live="work.live.value"
          :what="say('notice.judging')"
          @cancel="attempt(work.cancel)"
        />
        <div class="filters">
          <ElRadioGroup
            v-model="only"
            :aria-label="say('notice.whichDifferences')"
          >
            <ElRadio value="all">
              {{ say('notice.allDifferences') }}
            </ElRadio>
            <ElRadio value="chosen">
              {{ say('notice.postsAppliedFor') }}
            </ElRadio>
          </ElRadioGroup>
          <ElSelect
            v-model="post"
            :aria-label="say('notice.post')"
            clearable
            :placeholder="say('notice.allPosts')"
            style="width: 200px"
          >
            <ElOption
              v-for="one in cycle.notice?.posts ?? []"
              :key="one.id"
              :value="one.id"
              :label="one.title"
            />
          </ElSelect>
        </div>
        <HouseTable
          v-if="rows.length > 0"
          :columns="[
            { key: 'application', title: say('notice.application') },
            { key: 'name', title: say('notice.name'), text: row => row.name },
            { key: 'post', title: say('notice.post') },
            {
              key: 'before',
              title: say('notice.before'),
              kind: 'line',
              text: row => `${verdictShapes[row.before]} ${postVerdictWords[row.before]}`,
            },
            {
              key: 'after',
              title: say('notice.after'),
              kind: 'line',
              look: row => ({ pass: 'settled', fail: 'refusal', unsure: 'attention' })[row.after],
              text: row => `${verdictShapes[row.after]} ${postVerdictWords[row.after]}`,
            },
            { key: 'clause', title: say('notice.clause'), text: row => row.clauses || '–' },
            { key: 'stands', title: say('notice.standsAt'), kind: 'line' },
          ]"
          :rows="rows"
          :row-key="row => row.number + row.post"
        >
          <template #application="{ row }">
            <NuxtLink :to="`/scrutiny/${row.applicationId}`">{{ row.number }}</NuxtLink>
          </template>
          <template #post="{ row }">
            {{ row.postTitle }} <span
              v-if="row.chosen"
              class="soft small"
            >{{ say('notice.appliedFor') }}</span>
          </template>
          <template #stands="{ row }">
            <HouseHeadlineMark :headline="row.headline as Headline" />
          </template>
        </HouseTable>
        <p
          v-else
          class="soft"
        >
          {{ review.state === 'running' ? say('notice.theListIsBeingMade') : say('notice.noVerdictDiffersHere') }}
        </p>
        <ElButton
          v-if="review.next"
          @click="attempt(() => load(review?.next ?? undefined))"
        >
          {{ say('notice.more') }}
        </ElButton>
        <NoticeFeeChanges
          v-if="isAmendment && review.state !== 'running'"
          :rows="fees"
          :more="review.feeChanges.next !== null"
          @more="attempt(() => loadFees(review?.feeChanges.next ?? undefined))"
        />
        <NoticeSeatChanges
          v-if="seats.length > 0"
          :rows="seats"
          :more="review.seatChanges.next !== null"
          @more="attempt(() => loadSeats(review?.seatChanges.next ?? undefined))"
        />
      </div>
      <div class="beside counts">
        <h3>{{ say('notice.whatWasLookedAt') }}</h3>
        <dl>
          <dt>{{ say('notice.applications') }}</dt><dd>{{ countText(review.totals.applications) }}</dd>
          <dt>{{ say('notice.verdictsMadeAnew') }}</dt><dd>{{ countText(review.totals.judged) }}</dd>
          <dt>{{ say('notice.verdictsKeptSameFactsSameRules') }}</dt><dd>{{ countText(review.totals.kept) }}</dd>
          <dt>{{ say('notice.verdictsThatDiffer') }}</dt><dd><b>{{ countText(review.totals.differences) }}</b></dd>
          <dt>{{ say('notice.ofThemOnPostsAppliedFor') }}</dt><dd><b>{{ countText(review.totals.chosen) }}</b></dd>
          <template v-if="isAmendment">
            <dt>{{ say('notice.feesMore') }}</dt><dd><b>{{ feeTotal(review.totals.fees.more, review.totals.fees.moreBy) }}</b></dd>
            <dt>{{ say('notice.dueAgain') }}</dt><dd>{{ countText(review.totals.fees.dueAgain) }}</dd>
            <dt>{{ say('notice.feesLess') }}</dt><dd><b>{{ feeTotal(review.totals.fees.less, -review.totals.fees.lessBy) }}</b></dd>
            <dt>{{ say('notice.owedBack') }}</dt><dd>{{ countText(review.totals.fees.owedBack) }}</dd>
            <dt>{{ say('notice.seatsGone') }}</dt><dd><b>{{ countText(review.totals.seats.gone) }}</b></dd>
            <dt>{{ say('notice.seatsAnotherHour') }}</dt><dd>{{ countText(review.totals.seats.anotherHour) }}</dd>
          </template>
        </dl>
        <p class="soft small">
          {{ say('notice.acceptingPutsTheseVerdicts', { hasVersion: String(review.version === review.baseVersion) }) }}
        </p>
      </div>
    </div>
    <div class="action-bar">
      <span v-if="review.state === 'accepted' || review.state === 'discarded'"><b>{{ review.state === 'accepted' ? say('notice.accepted') : say('notice.wasLaidAside') }}</b> <span
        v-if="review.settledBy"
        class="soft"
      >{{ say('notice.by', { settledBy: review.settledBy, settledAt: review.settledAt ? spelling.instant(review.settledAt) : '' }) }}</span></span>
      <template v-else-if="session.may('notice.amend')">
        <span v-if="review.state === 'agreed'"><b>{{ say('notice.holdsFromLine', { at: review.holdsFrom ? spelling.instant(review.holdsFrom) : '' }) }}</b></span>
        <ElButton
          class="push"
          :disabled="busy"
          @click="settle('discard')"
        >
          {{ say('notice.layAside') }}
        </ElButton>
        <ElButton
          v-if="review.state !== 'agreed'"
          type="primary"
          :disabled="review.state !== 'listed'"
          :loading="busy"
          @click="isAmendment ? accepting = true : settle('accept')"
        >
          {{ say('notice.acceptChangeOther', { differences: review.totals.differences, isAmendment: String(isAmendment) }) }}
        </ElButton>
      </template>
    </div>
    <NoticeAcceptDialog
      v-model="accepting"
      :review="review"
      :busy="busy"
      :refusal="refusal"
      @accept="acceptance => settle('accept', acceptance)"
    />
  </template>
</template>

<style scoped>
.grow { flex: 1; }
.body { padding-top: 18px !important; padding-bottom: 24px !important; }
.amendments, .why { margin: 12px 0; }
.filters { display: flex; flex-wrap: wrap; gap: 8px 24px; padding: 12px 0; align-items: center; }
.counts { padding-top: 20px !important; }
dl { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 4px 12px; margin: 8px 0 16px; }
dd { margin: 0; text-align: right; }
</style>
