import { takeBackSchema } from '../../../../../shared/bank'
import { route } from '../../../../http/handle'
import { body, idParam } from '../../../../http/input'
import { takeExplanationBack } from '../../../../services/bank/lines'

export default route(async ({ event, caller }) => {
  await takeExplanationBack(caller, idParam(event), (await body(event, takeBackSchema)).reason)
  return { done: true }
})
