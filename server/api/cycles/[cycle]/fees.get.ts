import { route } from '../../../http/handle'
import { textParam } from '../../../http/input'
import { feesOverview } from '../../../services/fees/overview'

export default route(({ event, caller }) => feesOverview(caller, textParam(event, 'cycle')))
