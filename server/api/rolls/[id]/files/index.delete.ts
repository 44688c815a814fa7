import { route } from '../../../../http/handle'
import { idParam } from '../../../../http/input'
import { dropFiles } from '../../../../services/rolls/take-files'

export default route(({ event, caller }) => dropFiles(caller, idParam(event)))
