import { route, textParam } from '../../../http/handle'
import { cardsOverview } from '../../../services/cards/issue'

export default route(({ event, context }) => cardsOverview(context, textParam(event, 'cycle')))
