import { route, textParam } from '../../../../http/handle'
import { readDemand } from '../../../../services/centres/demand'

export default route(({ event, context }) => readDemand(context, textParam(event, 'cycle')))
