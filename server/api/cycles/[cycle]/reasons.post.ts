import { keptReasonSchema } from '../../../../shared/scrutiny'
import { route } from '../../../http/handle'
import { body, textParam } from '../../../http/input'
import { keepReason } from '../../../services/scrutiny/readings'

export default route(async ({ event, caller }) => {
  await keepReason(caller, textParam(event, 'cycle'), await body(event, keptReasonSchema))
  return { done: true }
})
