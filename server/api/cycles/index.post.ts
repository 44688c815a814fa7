import { openingSchema } from '../../../shared/notice'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { openCycle } from '../../services/notice/notices'

/** Opens a cycle with its first notice. */
export default route(async ({ event, caller }) => openCycle(caller, await body(event, openingSchema)))
