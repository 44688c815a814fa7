import { releaseSchema } from '../../../../shared/records'
import { route } from '../../../http/handle'
import { body, textParam } from '../../../http/input'
import { releaseErasing } from '../../../services/records/erase'

/** Releases a finished cycle for erasing; a second person confirms it. */
export default route(async ({ event, caller }) => releaseErasing(caller, textParam(event, 'cycle'), await body(event, releaseSchema)))
