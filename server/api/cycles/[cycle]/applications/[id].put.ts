import { permitSchema } from '../../../../../shared/acts'
import { route } from '../../../../http/handle'
import { body, idParam, textParam } from '../../../../http/input'
import { registerApplication } from '../../../../services/applications/begin'

/** The caller makes the id, so that asking twice registers once. */
export default route(async ({ event, caller }) => registerApplication(caller, textParam(event, 'cycle'), idParam(event), await body(event, permitSchema) ?? {}))
