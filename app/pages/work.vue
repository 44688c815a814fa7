<script setup lang="ts">
import { workTitles } from '~~/core/words/en/work'
import type { JobView } from '~~/shared/centres'

/** Work in the background of the cycle: what is under way, how far it is, and how it ended. */
useHead({ title: 'Work · Lucid Roster' })
const cycle = useCycleStore()
const spelling = useSpelling()
const jobs = shallowRef<JobView[]>([])
const live = (job: JobView) => job.state === 'waiting' || job.state === 'running'
const shapes: Record<JobView['state'], string> = { waiting: '○', running: '◑', done: '●', failed: '✕', cancelled: '–' }

const { failure, reload: load } = useLoaded(async () => {
  jobs.value = await callApi<JobView[]>(cycle.path('jobs'))
})
const stop = (job: JobView) => attempt(async () => {
  await callApi(`/api/jobs/${job.id}`, { method: 'DELETE' })
  await load()
})
const timer = setInterval(() => { if (jobs.value.some(live)) void load() }, 1500)
onUnmounted(() => clearInterval(timer))
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Work in the background</h1>
      <span class="soft">A server that dies leaves nothing undone: another takes its work up within half a minute.</span>
    </div>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <p
      v-if="jobs.length === 0 && !failure"
      class="soft"
    >
      Nothing was started in this cycle yet. Runs of the allocation, publishing, reviews and the issue of cards appear here.
    </p>
    <table
      v-else
      class="plain-table"
    >
      <thead><tr><th>what</th><th>state</th><th>how far</th><th>begun by</th><th>begun</th><th>last heard of</th><th><span class="visually-hidden">stop</span></th></tr></thead>
      <tbody>
        <tr
          v-for="job in jobs"
          :key="job.id"
        >
          <td><b>{{ workTitles[job.kind] ?? job.kind }}</b></td>
          <td class="nowrap">
            {{ shapes[job.state] }} {{ job.state }}
          </td>
          <td>
            <template v-if="job.error">
              {{ job.error }}
            </template>
            <template v-else-if="job.total > 0">
              {{ job.done.toLocaleString('en-GB') }} of {{ job.total.toLocaleString('en-GB') }}
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
              Stop
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
