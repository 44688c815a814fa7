import { setResponseHeader } from 'h3'
import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { runReport } from '../../../services/centres/report'

export default route(async ({ event, caller }) => {
  const { name, pdf } = await runReport(caller, idParam(event))
  setResponseHeader(event, 'content-type', 'application/pdf')
  setResponseHeader(event, 'content-disposition', `inline; filename="${name}"`)
  return pdf
})
