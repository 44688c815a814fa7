import { route } from '../../../http/handle'
import { textParam } from '../../../http/input'
import { readErasure } from '../../../services/records/erase'

export default route(({ event, caller }) => readErasure(caller, textParam(event, 'cycle')))
