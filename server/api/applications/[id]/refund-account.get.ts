import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { readRefundAccount } from '../../../services/bank/refund-account'

export default route(async ({ event, caller }) => ({ account: await readRefundAccount(caller, idParam(event)) }), { asCandidate: true })
