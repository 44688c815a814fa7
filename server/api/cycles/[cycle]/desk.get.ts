import { route } from '../../../http/handle'
import { textParam } from '../../../http/input'
import { readDesk } from '../../../services/applications/desk'

export default route(({ event, caller }) => readDesk(caller, textParam(event, 'cycle')))
