import { route } from '../../../http/handle'
import { textParam } from '../../../http/input'
import { listRolls } from '../../../services/rolls/rolls'

export default route(({ event, caller }) => listRolls(caller, textParam(event, 'cycle')))
