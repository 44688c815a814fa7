import { billListSchema } from '../../../../../shared/bills'
import { route } from '../../../../http/handle'
import { body, textParam } from '../../../../http/input'
import { billList } from '../../../../services/bank/bills'

export default route(async ({ event, caller }) => billList(caller, textParam(event, 'cycle'), await body(event, billListSchema)))
