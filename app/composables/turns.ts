/**
 * Work that is asked for again and again and done one at a time: at once, or a moment after it was asked for last. What is planned when the
 * page goes is done then.
 */
export function useTurns(work: () => Promise<void>) {
  let timer: ReturnType<typeof setTimeout> | undefined
  let running: Promise<void> | null = null

  function plan(milliseconds: number): void {
    clearTimeout(timer)
    timer = setTimeout(() => void now(), milliseconds)
  }
  async function now(): Promise<void> {
    clearTimeout(timer)
    // Whoever has waited for the same turn may be the next: one waits again.
    while (running) await running
    running = work().finally(() => {
      running = null
    })
    await running
  }
  const stop = () => clearTimeout(timer)
  onScopeDispose(() => void now())
  return { plan, now, stop, isRunning: () => running !== null }
}
