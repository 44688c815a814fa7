import { route } from '../../../../http/handle'
import { idParam, textParam } from '../../../../http/input'
import { imageVersions } from '../../../../services/images/store'

export default route(({ event, caller }) => imageVersions(caller, idParam(event), textParam(event, 'kind')))
