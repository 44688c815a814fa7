import { route } from '../../../../http/handle'
import { idParam } from '../../../../http/input'
import { readKeying } from '../../../../services/keying/list'

export default route(({ event, caller }) => readKeying(caller, idParam(event)))
