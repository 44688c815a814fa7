import { route } from '../../../http/handle'
import { textParam } from '../../../http/input'
import { readDesk } from '../../../services/roster/desk'

export default route(({ event, caller }) => readDesk(caller, textParam(event, 'cycle')))
