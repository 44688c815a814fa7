import { idParam, route } from '../../../http/handle'
import { lookalikesOf } from '../../../services/images/likeness'

export default route(({ event, context }) => lookalikesOf(context, idParam(event)))
