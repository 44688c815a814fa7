import { setResponseHeader } from 'h3'
import { idParam, route } from '../../../http/handle'
import { runReport } from '../../../services/centres/report'

export default route(async ({ event, context }) => {
  const { name, pdf } = await runReport(context, idParam(event))
  setResponseHeader(event, 'content-type', 'application/pdf')
  setResponseHeader(event, 'content-disposition', `inline; filename="${name}"`)
  return pdf
})
