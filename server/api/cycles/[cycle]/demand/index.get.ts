import { route } from '../../../../http/handle'
import { textParam } from '../../../../http/input'
import { readDemand } from '../../../../services/centres/demand'

export default route(({ event, caller }) => readDemand(caller, textParam(event, 'cycle')))
