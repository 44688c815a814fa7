import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { layBack } from '../../../services/scrutiny/queue'

export default route(async ({ event, caller }) => {
  await layBack(caller, idParam(event, 'id'))
  return { done: true }
})
