import type { JobView } from '~~/shared/centres'

/** Follows long work of one kind: finds what runs after a reload, asks for its progress, and tells when it ends. */
export function useJob(kind: string, ended: () => void) {
  const cycle = useCycleStore()
  const job = shallowRef<JobView | null>(null)
  const live = computed(() => job.value?.state === 'waiting' || job.value?.state === 'running')
  let timer: ReturnType<typeof setTimeout> | undefined

  function follow(): void {
    clearTimeout(timer)
    if (!live.value) return
    timer = setTimeout(async () => {
      const id = job.value?.id
      if (!id) return
      // A question that fails is asked again: the work goes on without us.
      const next = await callApi<JobView>(`/api/jobs/${id}`).catch(() => null)
      if (next) job.value = next
      if (live.value) follow()
      else ended()
    }, 500)
  }
  async function find(): Promise<void> {
    job.value = (await callApi<{ job: JobView | null }>(cycle.path(`jobs/${kind}`))).job
    follow()
  }
  /** Follows work that was just started. */
  function take(started: JobView): void {
    job.value = started
    follow()
  }
  /** Starts the work at an address of its own and follows it. */
  async function startAt(path: string, body: unknown): Promise<void> {
    take(await callApi<JobView>(path, { method: 'POST', body }))
  }
  async function cancel(): Promise<void> {
    if (job.value) job.value = await callApi<JobView>(`/api/jobs/${job.value.id}`, { method: 'DELETE' })
  }
  onScopeDispose(() => clearTimeout(timer))
  return { job, live, find, take, startAt, cancel }
}
