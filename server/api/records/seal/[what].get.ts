import { setResponseHeader } from 'h3'
import { Readable } from 'node:stream'
import { route } from '../../../http/handle'
import { oneOfParam } from '../../../http/input'
import { exportSealed } from '../../../services/records/seal'

/** The sealed log or its heads as JSON Lines, for `lucid audit`. */
export default route(async ({ event, caller }) => {
  const what = oneOfParam(event, 'what', ['rows', 'heads'] as const)
  const lines = await exportSealed(caller, what)
  setResponseHeader(event, 'content-type', 'application/jsonl')
  setResponseHeader(event, 'content-disposition', `attachment; filename="log-${what}.jsonl"`)
  return Readable.from(lines)
})
