import { route } from '../../../http/handle'
import { textParam } from '../../../http/input'
import { versionsInForce } from '../../../services/notice/in-force'

export default route(({ event, caller }) => versionsInForce(caller, textParam(event, 'cycle')))
