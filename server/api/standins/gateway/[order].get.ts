import { route } from '../../../http/handle'
import { textParam } from '../../../http/input'
import { runtime } from '../../../runtime'

export default route(({ event }) => runtime().gateway.show(textParam(event, 'order')))
