import { Readable } from 'node:stream'
import { setResponseHeader } from 'h3'
import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { draftRows } from '../../../services/rolls/hand-in'

export default route(async ({ event, caller }) => {
  const rows = await draftRows(caller, idParam(event))
  setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8')
  setResponseHeader(event, 'content-disposition', 'attachment; filename="drafts.csv"')
  return Readable.from(rows)
})
