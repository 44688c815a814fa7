import { Readable } from 'node:stream'
import { setResponseHeader } from 'h3'
import { rosterFilterSchema } from '../../../../../shared/applications'
import { route } from '../../../../http/handle'
import { query, textParam } from '../../../../http/input'
import { rosterCsv } from '../../../../services/roster/count'

export default route(async ({ event, caller }) => {
  const pages = await rosterCsv(caller, textParam(event, 'cycle'), query(event, rosterFilterSchema))
  setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8')
  setResponseHeader(event, 'content-disposition', 'attachment; filename="roster.csv"')
  return Readable.from(pages)
})
