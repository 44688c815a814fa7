import { route } from '../../../../http/handle'
import { idParam } from '../../../../http/input'
import { listStatements } from '../../../../services/bank/statements'

export default route(({ event, caller }) => listStatements(caller, idParam(event)))
