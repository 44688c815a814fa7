import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { holdQuestion } from '../../../services/letters/questions'

export default route(async ({ event, caller }) => {
  await holdQuestion(caller, idParam(event), true)
  return { done: true }
})
