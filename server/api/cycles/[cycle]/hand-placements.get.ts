import { route } from '../../../http/handle'
import { textParam } from '../../../http/input'
import { listHandPlacements } from '../../../services/centres/moves'

export default route(({ event, caller }) => listHandPlacements(caller, textParam(event, 'cycle')))
