import { staffInputSchema } from '../../../shared/people'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { inviteStaff } from '../../services/people/staff'

export default route(async ({ event, caller }) => inviteStaff(caller, await body(event, staffInputSchema)))
