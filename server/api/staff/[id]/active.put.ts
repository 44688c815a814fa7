import { z } from 'zod'
import { route } from '../../../http/handle'
import { body, idParam } from '../../../http/input'
import { activateStaff, listStaff } from '../../../services/people/staff'

export default route(async ({ event, caller }) => {
  await activateStaff(caller, idParam(event), (await body(event, z.strictObject({ active: z.boolean() }))).active)
  return listStaff(caller)
})
