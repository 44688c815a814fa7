import { idParam, route } from '../../../http/handle'
import { publishRun } from '../../../services/centres/publish'

export default route(({ event, context }) => publishRun(context, idParam(event)))
