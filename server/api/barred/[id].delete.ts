import { liftSchema } from '../../../shared/barred'
import { route } from '../../http/handle'
import { body, idParam } from '../../http/input'
import { liftBar } from '../../services/barred/people'

export default route(async ({ event, caller }) => {
  await liftBar(caller, idParam(event), (await body(event, liftSchema)).reason)
  return { lifted: true }
})
