import { route } from '../../../http/handle'
import { textParam } from '../../../http/input'
import { listRuns } from '../../../services/centres/runs'

export default route(({ event, caller }) => listRuns(caller, textParam(event, 'cycle')))
