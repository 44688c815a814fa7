<script setup lang="ts">
import type { ReviewRow } from '~~/shared/eligibility'
import { ProblemError } from '~~/shared/problem'

/** Amend the notice or judge all again: both list what would change before anything does. */
const cycle = useCycleStore()
const session = useSessionStore()
const router = useRouter()
const spelling = useSpelling()
const reviews = shallowRef<ReviewRow[]>([])
const { job, live, find, startAt, cancel } = useJob('review', ended)
const states = { running: say('notice.beingMade'), listed: say('notice.waitsForYourDecision'), accepted: 'accepted', discarded: say('notice.laidAside') }

async function load() {
  await attempt(async () => { reviews.value = await callApi<ReviewRow[]>(cycle.path('reviews')) })
}
async function ended() {
  const id = job.value?.state === 'done' ? job.value.id : null
  await load()
  if (id) await router.push(`/notice/review/${id}`)
}
const drafts = ref<{ keep: (document: unknown) => Promise<boolean> } | null>(null)

async function start(notice?: unknown) {
  try {
    await startAt(cycle.path('reviews'), notice === undefined ? {} : { notice })
    await load()
  } catch (error) {
    // What is wrong can be mended: nobody has to look for the file again.
    const isKept = error instanceof ProblemError && ['notice.faults', 'notice.warnings'].includes(error.problem.code) && await drafts.value?.keep(notice)
    const message = isKept ? say('notice.keptAsADraft', { problem: problemText(error) }) : problemText(error)
    ElMessage({ message, type: 'error', duration: 9000, showClose: true })
  }
}
onMounted(async () => {
  await load()
  await attempt(find)
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
            @chosen="start"
          >
            {{ say('notice.proposeAnAmendedNotice') }}
          </NoticeFileButton>
          <ElButton
            :disabled="live"
            @click="start()"
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
        <ul>
          <li
            v-for="review in reviews"
            :key="review.id"
          >
            <NuxtLink :to="`/notice/review/${review.id}`">{{ say('notice.review', { serial: review.serial }) }}</NuxtLink>{{ say('notice.version', { version: review.version, states: states[review.state] }) }}
            <span class="soft small"><br>{{ say('notice.verdictsDiffer', { differences: review.totals.differences, by: review.by, at: spelling.instant(review.at) }) }}</span>
          </li>
        </ul>
      </div>
      <div>
        <NoticeStart v-if="session.may('notice.amend')" />
        <NoticeDrafts
          ref="drafts"
          :disabled="live"
          @propose="start"
        />
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
