import { route } from '../../../../http/handle'
import { idParam, textParam } from '../../../../http/input'
import { imageVersions } from '../../../../services/images/views'

export default route(({ event, caller }) => imageVersions(caller, idParam(event), textParam(event, 'kind')))
