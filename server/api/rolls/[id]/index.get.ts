import { rollQuerySchema } from '../../../../shared/rolls'
import { route } from '../../../http/handle'
import { idParam, query } from '../../../http/input'
import { readRoll } from '../../../services/rolls/rolls'

export default route(({ event, caller }) => readRoll(caller, idParam(event), query(event, rollQuerySchema)))
