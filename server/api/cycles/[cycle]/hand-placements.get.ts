import { route, textParam } from '../../../http/handle'
import { listHandPlacements } from '../../../services/centres/moves'

export default route(({ event, context }) => listHandPlacements(context, textParam(event, 'cycle')))
