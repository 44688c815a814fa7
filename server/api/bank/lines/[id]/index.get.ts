import { route } from '../../../../http/handle'
import { idParam } from '../../../../http/input'
import { readLine } from '../../../../services/bank/lines'

export default route(({ event, caller }) => readLine(caller, idParam(event)))
