import { route, textParam } from '../../../http/handle'
import { runtime } from '../../../runtime'

export default route(({ event }) => runtime().gateway.show(textParam(event, 'order')))
