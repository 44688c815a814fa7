import { Readable } from 'node:stream'
import { setResponseHeader } from 'h3'
import { idParam, route } from '../../../http/handle'
import { runCsv } from '../../../services/centres/exports'

export default route(({ event, context }) => {
  setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8')
  setResponseHeader(event, 'content-disposition', 'attachment; filename="allotment.csv"')
  return Promise.resolve(Readable.from(runCsv(context, idParam(event))))
})
