import { refundAccountSchema } from '../../../../shared/bank'
import { route } from '../../../http/handle'
import { body, idParam } from '../../../http/input'
import { giveRefundAccount } from '../../../services/bank/refund-account'

export default route(async ({ event, caller }) => {
  await giveRefundAccount(caller, idParam(event), await body(event, refundAccountSchema))
  return { done: true }
})
