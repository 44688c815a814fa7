import { route } from '../../../../http/handle'
import { idParam, textParam } from '../../../../http/input'
import { takeOutHandout } from '../../../../services/notice/handouts'

export default route(({ event, caller }) => takeOutHandout(caller, textParam(event, 'cycle'), idParam(event, 'handout')))
