import { route, textParam } from '../../../http/handle'
import { feesOverview } from '../../../services/fees/payments'

export default route(({ event, context }) => feesOverview(context, textParam(event, 'cycle')))
