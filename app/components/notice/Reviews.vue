<script setup lang="ts">
import type { ReviewRow } from '~~/shared/eligibility'

/** Amend the notice or judge all again: both list what would change before anything does. */
const cycle = useCycleStore()
const session = useSessionStore()
const router = useRouter()
const spelling = useSpelling()
const reviews = shallowRef<ReviewRow[]>([])
const input = ref<HTMLInputElement | null>(null)
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
async function start(notice?: unknown) {
  await attempt(async () => {
    await startAt(cycle.path('reviews'), notice === undefined ? {} : { notice })
    await load()
  })
}
async function amend(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  let json: unknown
  try {
    json = JSON.parse(await file.text())
  } catch (error) {
    ElMessage({ message: say('notice.isNotJsonNothingWasChanged', { name: file.name, message: error instanceof Error ? error.message : '' }), type: 'error', duration: 9000, showClose: true })
    return
  } finally {
    if (input.value) input.value.value = ''
  }
  await start(json)
}
onMounted(async () => {
  await load()
  await attempt(find)
})
</script>

<template>
  <section class="reviews">
    <h3>{{ say('notice.amendmentsAndReviews') }}</h3>
    <p class="soft small">
      {{ say('notice.anAmendedNoticeOrFactsThat') }}
    </p>
    <div
      v-if="session.may('notice.amend')"
      class="acts"
    >
      <ElButton
        :disabled="live"
        @click="input?.click()"
      >
        {{ say('notice.proposeAnAmendedNotice') }}
      </ElButton>
      <ElButton
        :disabled="live"
        @click="start()"
      >
        {{ say('notice.judgeAllAgain') }}
      </ElButton>
      <input
        ref="input"
        type="file"
        accept=".json,application/json"
        class="visually-hidden"
        :aria-label="say('notice.fileOfTheAmendedNotice')"
        tabindex="-1"
        @change="amend"
      >
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
  </section>
</template>

<style scoped>
.reviews { padding-bottom: 16px; }
.acts { display: flex; flex-wrap: wrap; gap: 8px; padding: 10px 0; }
ul { list-style: none; padding: 0; margin: 8px 0; }
li { padding: 4px 0; }
</style>
