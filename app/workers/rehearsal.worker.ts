import { rehearse, type Rehearsal } from '~~/core/rehearsal/rehearse'
import type { RehearsalAsk } from '~/composables/rehearsal'

/** Tries a notice with some thousand invented people beside the page, telling now and then how many. */
self.onmessage = ({ data: { id, notice, spread, today, seed } }: MessageEvent<RehearsalAsk>) => {
  const rehearsal = rehearse(notice, spread, today, seed, (done) => {
    if (done % 250 === 0) self.postMessage({ id, done } satisfies { id: number, done: number })
    return true
  })
  self.postMessage({ id, rehearsal } satisfies { id: number, rehearsal: Rehearsal })
}
