import { closeSchema } from '../../../../shared/bank'
import { route } from '../../../http/handle'
import { body, textParam } from '../../../http/input'
import { closeDay } from '../../../services/bank/closing'

export default route(async ({ event, caller }) => {
  await closeDay(caller, textParam(event, 'cycle'), await body(event, closeSchema))
  return { done: true }
})
