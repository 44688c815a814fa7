import { route } from '../../../../http/handle'
import { idParam } from '../../../../http/input'
import { readCsvMapping } from '../../../../services/bank/accounts'

export default route(({ event, caller }) => readCsvMapping(caller, idParam(event)))
