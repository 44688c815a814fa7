import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { withdrawBill } from '../../../services/bank/bills'

export default route(({ event, caller }) => withdrawBill(caller, idParam(event)))
