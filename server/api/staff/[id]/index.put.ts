import { staffInputSchema } from '../../../../shared/people'
import { route } from '../../../http/handle'
import { body, idParam } from '../../../http/input'
import { changeStaff, listStaff } from '../../../services/people/staff'

export default route(async ({ event, caller }) => {
  await changeStaff(caller, idParam(event), await body(event, staffInputSchema))
  return listStaff(caller)
})
