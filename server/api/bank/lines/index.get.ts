import { lineQuerySchema } from '../../../../shared/bank'
import { route } from '../../../http/handle'
import { query } from '../../../http/input'
import { listLines } from '../../../services/bank/lines'

export default route(({ event, caller }) => listLines(caller, query(event, lineQuerySchema)))
