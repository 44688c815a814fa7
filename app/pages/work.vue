<script setup lang="ts">
import type { JobView } from '~~/shared/centres'

const { workTitles } = useWords().work
const { workStateWords } = useWords().states

/** Work in the background of the cycle: what is under way, how far it is, and how it ended. */
useHead({ title: titled(say('work.work')) })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const jobs = shallowRef<JobView[]>([])
const live = (job: JobView) => job.state === 'waiting' || job.state === 'running'
const shapes: Record<JobView['state'], string> = { waiting: '○', running: '◑', done: '●', failed: '✕', cancelled: '–' }

const { failure, reload: load } = useLoaded(async () => {
  jobs.value = await callApi<JobView[]>(cycle.path('jobs'))
})
const prove = () =>
  attempt(async () => {
    await callApi(cycle.path('jobs/prove-counts'), { method: 'POST', body: {} })
    await load()
  })
const howFar = ({ error, done, total }: JobView) =>
  error ?? (total > 0 ? say('work.of', { done: countText(done), total: countText(total) }) : '–')
const stop = (job: JobView) =>
  attempt(async () => {
    await callApi(`/api/jobs/${job.id}`, { method: 'DELETE' })
    await load()
  })
const timer = setInterval(() => {
  if (jobs.value.some(live)) void load()
}, 1500)
onUnmounted(() => clearInterval(timer))
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>{{ say('work.workInTheBackground') }}</h1>
      <span class="soft">{{ say('work.aServerThatDiesLeavesNothing') }}</span>
      <div
        v-if="cycle.code && session.may('roster.prove')"
        class="actions"
      >
        <ElButton
          :title="say('work.provesCounts')"
          @click="prove"
        >
          {{ say('work.proveTheCounts') }}
        </ElButton>
      </div>
    </div>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <p
      v-if="jobs.length === 0 && !failure"
      class="soft"
    >
      {{ say('work.nothingWasStartedInThisCycle') }}
    </p>
    <HouseTable
      v-else
      :columns="[
        { key: 'what', title: say('work.what') },
        { key: 'state', title: say('work.state'), kind: 'line', text: job => `${shapes[job.state]} ${workStateWords[job.state]}` },
        { key: 'howFar', title: say('work.howFar'), text: howFar },
        { key: 'by', title: say('work.begunBy'), text: job => job.by },
        { key: 'begun', title: say('work.begun'), kind: 'line', look: 'soft', text: job => spelling.instant(job.createdAt) },
        { key: 'heard', title: say('work.lastHeardOf'), kind: 'line', look: 'soft', text: job => spelling.instant(job.updatedAt) },
        { key: 'stop', title: say('work.stopColumn'), isQuiet: true },
      ]"
      :rows="jobs"
      :row-key="job => job.id"
    >
      <template #what="{ row: job }">
        <b>{{ workTitles[job.kind] ?? job.kind }}</b>
      </template>
      <template #stop="{ row: job }">
        <button
          v-if="live(job)"
          class="press"
          @click="stop(job)"
        >
          {{ say('work.stop') }}
        </button>
      </template>
    </HouseTable>
  </div>
</template>
