import { refusal } from '../../../shared/refusal'

/** Told of the progress of long work; answers whether to go on. */
export type Tell = (done: number, total: number) => Promise<boolean>

/** Progress of one part of the work as percent of all of it. */
export const partOf = (tell: Tell, from: number, to: number): Tell => (done, total) =>
  tell(Math.round(from + (to - from) * Math.min(1, done / Math.max(1, total))), 100)

/** Said when somebody stopped a run: whatever was done by then is undone. */
export const stopped = () => refusal('run.stopped')
