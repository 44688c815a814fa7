import { refundAnswerSchema } from '../../../../../shared/bank'
import { route } from '../../../../http/handle'
import { body, idParam } from '../../../../http/input'
import { runtime } from '../../../../runtime'
import { answerRefund } from '../../../../services/bank/refunds'

export default route(async ({ event, caller }) => {
  await answerRefund(caller, runtime().gateway, idParam(event), (await body(event, refundAnswerSchema)).answer)
  return { done: true }
})
