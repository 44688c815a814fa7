<script setup lang="ts">
import type { ReviewRow } from '~~/shared/eligibility'

/** Amend the notice or judge all again: both list what would change before anything does. */
const cycle = useCycleStore()
const session = useSessionStore()
const router = useRouter()
const spelling = useSpelling()
const reviews = shallowRef<ReviewRow[]>([])
const { job, live, find, startAt, cancel } = useJob('review', ended)
const states = {
  running: say('notice.beingMade'),
  listed: say('notice.waitsForYourDecision'),
  accepted: say('notice.accepted'),
  discarded: say('notice.laidAside'),
}
const stateOf = ({ state, holdsFrom }: ReviewRow) =>
  state === 'agreed' ? say('notice.agreedUntil', { at: holdsFrom ? spelling.instant(holdsFrom) : '' }) : states[state]

async function load() {
  await attempt(async () => {
    reviews.value = await callApi<ReviewRow[]>(cycle.path('reviews'))
  })
}
async function ended() {
  const id = job.value?.state === 'done' ? job.value.id : null
  await load()
  if (id) await router.push(`/notice/review/${id}`)
}

/** Judges all again under the notice in force; an amendment is proposed from its draft. */
const start = () =>
  attempt(async () => {
    await startAt(cycle.path('reviews'), {})
    await load()
  })
/** A file becomes a draft whatever is wrong with it: there it can be mended, and proposed with its reason. */
const keepFile = (document: unknown) =>
  attempt(async () => {
    const id = crypto.randomUUID()
    await callApi(`/api/drafts/${id}`, { method: 'PUT', body: { document, revision: 0 } })
    await router.push(`/notice/draft/${id}`)
  })
const assessing = useJob('assess-anew', load)
onMounted(async () => {
  await load()
  await attempt(find)
  await attempt(assessing.find)
})
</script>

<template>
  <section class="sheet-row head">
    <div class="body two">
      <div>
        <h2 class="section-title">{{ say('notice.amendmentsAndReviews') }}</h2>
        <div
          v-if="session.may('notice.amend')"
          class="acts"
        >
          <NoticeFileButton
            :label="say('notice.fileOfTheAmendedNotice')"
            :disabled="live"
            @chosen="keepFile"
          >
            {{ say('notice.proposeAnAmendedNotice') }}
          </NoticeFileButton>
          <ElButton
            :disabled="live"
            @click="start"
          >
            {{ say('notice.judgeAllAgain') }}
          </ElButton>
        </div>
        <JobsProgress
          :job="job"
          :live="live"
          :what="say('notice.judging')"
          @cancel="attempt(cancel)"
        />
        <JobsProgress
          :job="assessing.job.value"
          :live="assessing.live.value"
          :what="say('notice.assessing')"
          @cancel="attempt(assessing.cancel)"
        />
        <ul>
          <li
            v-for="review in reviews"
            :key="review.id"
          >
            <NuxtLink :to="`/notice/review/${review.id}`">{{ say('notice.review', { serial: review.serial }) }}</NuxtLink>{{ say('notice.version', { version: review.version, states: stateOf(review) }) }}
            <span v-if="review.reason"><br>{{ review.reason }}</span>
            <span class="soft small"><br>{{ say('notice.verdictsDiffer', { differences: review.totals.differences, fees: review.totals.fees.more + review.totals.fees.less, by: review.by, at: spelling.instant(review.at) }) }}</span>
          </li>
        </ul>
      </div>
      <div>
        <NoticeStart v-if="session.may('notice.amend')" />
        <NoticeDrafts />
      </div>
    </div>
    <div class="beside">
      <p class="soft small">
        {{ say('notice.anAmendedNoticeOrFactsThat') }}
      </p>
      <p class="soft small">
        {{ say('notice.draftsAreKept') }}
      </p>
    </div>
  </section>
</template>

<style scoped>
.two { display: grid; grid-template-columns: repeat(auto-fit, minmax(min(320px, 100%), 1fr)); gap: 8px 32px; align-items: start; }
.beside p { margin: 24px 0 8px; }
.beside p + p { margin-top: 0; }
.acts { display: flex; flex-wrap: wrap; gap: 8px; padding: 10px 0; }
ul { list-style: none; padding: 0; margin: 8px 0; }
li { padding: 4px 0; }
</style>
