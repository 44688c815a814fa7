import { route } from '../../../../http/handle'
import { idParam } from '../../../../http/input'
import { listReceipts } from '../../../../services/fees/receipts'

export default route(({ event, caller }) => listReceipts(caller, idParam(event)), { asCandidate: true })
