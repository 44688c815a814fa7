import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { seeApplication } from '../../../services/letters/seen'

export default route(async ({ event, caller }) => {
  await seeApplication(caller, idParam(event))
  return { done: true }
})
