import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { readDeposit } from '../../../services/bank/slip'

export default route(async ({ event, caller }) => ({ deposit: await readDeposit(caller, idParam(event)) }))
