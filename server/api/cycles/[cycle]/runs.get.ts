import { route, textParam } from '../../../http/handle'
import { listRuns } from '../../../services/centres/runs'

export default route(({ event, context }) => listRuns(context, textParam(event, 'cycle')))
