import { billPayerSchema } from '../../../../../shared/bills'
import { route } from '../../../../http/handle'
import { body, textParam } from '../../../../http/input'
import { billPayer } from '../../../../services/bank/bills'

export default route(async ({ event, caller }) => billPayer(caller, textParam(event, 'cycle'), (await body(event, billPayerSchema)).payer))
