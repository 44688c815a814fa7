import { route } from '../../../http/handle'
import { textParam } from '../../../http/input'
import { gatewayStandin } from '../../../runtime'

export default route(({ event }) => gatewayStandin().show(textParam(event, 'order')))
