import { idParam, route, textParam } from '../../../../http/handle'
import { imageVersions } from '../../../../services/images/store'

export default route(({ event, context }) => imageVersions(context, idParam(event), textParam(event, 'kind')))
