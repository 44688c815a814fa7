import { route } from '../../../../http/handle'
import { textParam } from '../../../../http/input'
import { listHandouts } from '../../../../services/notice/handouts'

export default route(({ event, caller }) => listHandouts(caller, textParam(event, 'cycle')))
