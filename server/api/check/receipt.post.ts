import { receiptCheckSchema } from '../../../shared/fees'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { networkOf, originOf } from '../../http/proxy'
import { checkReceipt } from '../../services/fees/receipts'

export default route(
  async ({ event, caller }) => checkReceipt(caller, await body(event, receiptCheckSchema), networkOf(originOf(event).address)),
  { anonymous: true },
)
