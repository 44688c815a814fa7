import { refundSchema } from '../../../../shared/bank'
import { route } from '../../../http/handle'
import { body } from '../../../http/input'
import { proposeRefund } from '../../../services/bank/refunds'

export default route(async ({ event, caller }) => proposeRefund(caller, await body(event, refundSchema)))
