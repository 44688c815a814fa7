import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { linkForStaff } from '../../../services/people/staff'

export default route(({ event, caller }) => linkForStaff(caller, idParam(event)))
