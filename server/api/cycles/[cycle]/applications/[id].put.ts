import { idParam, route, textParam } from '../../../../http/handle'
import { registerApplication } from '../../../../services/applications/intake'

/** The caller makes the id, so that asking twice registers once. */
export default route(({ event, context }) => registerApplication(context, textParam(event, 'cycle'), idParam(event)))
