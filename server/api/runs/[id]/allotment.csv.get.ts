import { Readable } from 'node:stream'
import { setResponseHeader } from 'h3'
import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { runCsv } from '../../../services/centres/exports'

export default route(async ({ event, caller }) => {
  const pages = await runCsv(caller, idParam(event))
  setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8')
  setResponseHeader(event, 'content-disposition', 'attachment; filename="allotment.csv"')
  return Readable.from(pages)
})
