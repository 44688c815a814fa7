import { route } from '../../../../http/handle'
import { textParam } from '../../../../http/input'
import { cardsOverview } from '../../../../services/cards/overview'

export default route(({ event, caller }) => cardsOverview(caller, textParam(event, 'cycle')))
