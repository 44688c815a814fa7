import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { lookalikesOf } from '../../../services/images/likeness'

export default route(({ event, caller }) => lookalikesOf(caller, idParam(event)))
