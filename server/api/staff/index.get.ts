import { route } from '../../http/handle'
import { listStaff } from '../../services/people/staff'

export default route(({ caller }) => listStaff(caller))
