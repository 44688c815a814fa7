import { setResponseHeader } from 'h3'
import { centreCardsSchema } from '../../../../../shared/centres'
import { route } from '../../../../http/handle'
import { query, textParam } from '../../../../http/input'
import { centreCards } from '../../../../services/cards/centre'

export default route(async ({ event, caller }) => {
  const { name, pdf } = await centreCards(caller, textParam(event, 'cycle'), query(event, centreCardsSchema))
  setResponseHeader(event, 'content-type', 'application/pdf')
  setResponseHeader(event, 'content-disposition', `attachment; filename="${encodeURIComponent(name)}"`)
  return pdf
})
