import { route, textParam } from '../../../http/handle'
import { readBand } from '../../../services/applications/roster'

export default route(({ event, context }) => readBand(context, textParam(event, 'cycle')))
