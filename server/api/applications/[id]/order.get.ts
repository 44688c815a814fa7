import { setResponseHeader } from 'h3'
import { idParam, route } from '../../../http/handle'
import { orderPdf } from '../../../services/scrutiny/order'

export default route(async ({ event, context }) => {
  const { name, pdf } = await orderPdf(context, idParam(event))
  setResponseHeader(event, 'content-type', 'application/pdf')
  setResponseHeader(event, 'content-disposition', `inline; filename="${name}"`)
  return pdf
})
