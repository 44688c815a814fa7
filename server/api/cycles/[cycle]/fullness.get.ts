import { route } from '../../../http/handle'
import { textParam } from '../../../http/input'
import { cityFullness } from '../../../services/centres/fullness'

export default route(({ event, caller }) => cityFullness(caller, textParam(event, 'cycle')))
