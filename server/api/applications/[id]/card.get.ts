import { setResponseHeader } from 'h3'
import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { cardPdf } from '../../../services/cards/pdf'

export default route(async ({ event, caller }) => {
  const { name, pdf } = await cardPdf(caller, idParam(event))
  setResponseHeader(event, 'content-type', 'application/pdf')
  setResponseHeader(event, 'content-disposition', `inline; filename="${name}"`)
  return pdf
})
