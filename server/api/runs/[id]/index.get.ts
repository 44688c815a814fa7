import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { readRun } from '../../../services/centres/run-view'

export default route(({ event, caller }) => readRun(caller, idParam(event)))
