import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { runtime } from '../../../runtime'
import { readPrintOf } from '../../../services/scrutiny/print'

export default route(({ event, caller }) => readPrintOf(caller, runtime().readPrint, idParam(event)))
