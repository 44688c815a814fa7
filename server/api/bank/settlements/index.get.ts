import { route } from '../../../http/handle'
import { listSettlements } from '../../../services/bank/settlements'

export default route(({ caller }) => listSettlements(caller))
