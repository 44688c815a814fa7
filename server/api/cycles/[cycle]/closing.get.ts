import { closingQuerySchema } from '../../../../shared/bank'
import { route } from '../../../http/handle'
import { query, textParam } from '../../../http/input'
import { readClosing } from '../../../services/bank/closing'

export default route(({ event, caller }) => readClosing(caller, textParam(event, 'cycle'), query(event, closingQuerySchema)))
