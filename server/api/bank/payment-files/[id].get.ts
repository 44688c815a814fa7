import { setResponseHeader } from 'h3'
import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { readPaymentFile } from '../../../services/bank/refunds'

export default route(async ({ event, caller }) => {
  const { name, xml } = await readPaymentFile(caller, idParam(event))
  setResponseHeader(event, 'content-type', 'application/xml')
  setResponseHeader(event, 'content-disposition', `attachment; filename="${name}"`)
  return xml
})
