import { Readable } from 'node:stream'
import { setResponseHeader } from 'h3'
import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { refusedRows } from '../../../services/rolls/rolls'

export default route(async ({ event, caller }) => {
  const pages = await refusedRows(caller, idParam(event))
  setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8')
  setResponseHeader(event, 'content-disposition', 'attachment; filename="refused-rows.csv"')
  return Readable.from(pages)
})
