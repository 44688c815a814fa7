import type { Notice } from '~~/core/notice/schema'
import type { Spread } from '~~/core/rehearsal/invent'
import type { Rehearsal } from '~~/core/rehearsal/rehearse'

export interface RehearsalAsk {
  id: number
  notice: Notice
  spread: Spread
  today: string
  seed: number
}

/** A rehearsal of a notice with invented people, run beside the page; nothing of it is kept. */
export function useRehearsal() {
  const rehearsal = shallowRef<Rehearsal | null>(null)
  /** People tried so far; null while nothing runs. */
  const done = ref<number | null>(null)
  const failed = ref('')
  const ask = useAsking<RehearsalAsk, { done: number } | { rehearsal: Rehearsal }>(
    () => new Worker(new URL('../workers/rehearsal.worker.ts', import.meta.url), { type: 'module' }),
    'page.fault',
  )
  function run(notice: Notice, spread: Spread, today: string, seed: number): void {
    failed.value = ''
    done.value = 0
    ask(id => ({ id, notice: plain(notice), spread: plain(spread), today, seed }), (told) => {
      if ('done' in told) {
        done.value = told.done
        return false
      }
      if ('rehearsal' in told) rehearsal.value = told.rehearsal
      else failed.value = useWords().refusals.refusalText(told.refusal.code, told.refusal.parameters)
      done.value = null
      return true
    })
  }
  return { rehearsal, done, failed, run }
}
