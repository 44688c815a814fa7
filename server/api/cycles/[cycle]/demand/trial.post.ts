import { route, textParam } from '../../../../http/handle'
import { runtime } from '../../../../runtime'
import { tryNow } from '../../../../services/centres/demand'

export default route(({ event, context }) => tryNow(context, textParam(event, 'cycle'), runtime().solve))
