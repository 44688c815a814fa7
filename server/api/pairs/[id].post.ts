import { pairInputSchema } from '../../../shared/scrutiny'
import { route } from '../../http/handle'
import { body, idParam } from '../../http/input'
import { judgePair } from '../../services/scrutiny/pairs'

export default route(async ({ event, caller }) => {
  await judgePair(caller, idParam(event, 'id'), await body(event, pairInputSchema))
  return { done: true }
})
