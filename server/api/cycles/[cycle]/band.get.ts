import { route } from '../../../http/handle'
import { textParam } from '../../../http/input'
import { readBand } from '../../../services/roster/page'

export default route(({ event, caller }) => readBand(caller, textParam(event, 'cycle')))
