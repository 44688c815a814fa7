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
    <table
      v-else
      class="plain-table"
    >
      <thead><tr><th>{{ say('work.what') }}</th><th>{{ say('work.state') }}</th><th>{{ say('work.howFar') }}</th><th>{{ say('work.begunBy') }}</th><th>{{ say('work.begun') }}</th><th>{{ say('work.lastHeardOf') }}</th><th><span class="visually-hidden">{{ say('work.stopColumn') }}</span></th></tr></thead>
      <tbody>
        <tr
          v-for="job in jobs"
          :key="job.id"
        >
          <td><b>{{ workTitles[job.kind] ?? job.kind }}</b></td>
          <td class="nowrap">
            {{ shapes[job.state] }} {{ workStateWords[job.state] }}
          </td>
          <td>
            <template v-if="job.error">
              {{ job.error }}
            </template>
            <template v-else-if="job.total > 0">
              {{ say('work.of', { done: countText(job.done), total: countText(job.total) }) }}
            </template>
            <template v-else>
              –
            </template>
          </td>
          <td>{{ job.by }}</td>
          <td class="soft nowrap">
            {{ spelling.instant(job.createdAt) }}
          </td>
          <td class="soft nowrap">
            {{ spelling.instant(job.updatedAt) }}
          </td>
          <td>
            <button
              v-if="live(job)"
              class="press"
              @click="stop(job)"
            >
              {{ say('work.stop') }}
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
