import { billQuerySchema } from '../../../../../shared/bills'
import { route } from '../../../../http/handle'
import { query, textParam } from '../../../../http/input'
import { listBills } from '../../../../services/bank/bills'

export default route(({ event, caller }) => listBills(caller, textParam(event, 'cycle'), query(event, billQuerySchema).after))
