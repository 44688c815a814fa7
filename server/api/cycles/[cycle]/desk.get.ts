import { route, textParam } from '../../../http/handle'
import { readDesk } from '../../../services/applications/desk'

export default route(({ event, context }) => readDesk(context, textParam(event, 'cycle')))
