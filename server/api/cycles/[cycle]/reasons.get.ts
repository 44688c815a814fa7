import { route } from '../../../http/handle'
import { textParam } from '../../../http/input'
import { listReasons } from '../../../services/scrutiny/readings'

export default route(({ event, caller }) => listReasons(caller, textParam(event, 'cycle')))
