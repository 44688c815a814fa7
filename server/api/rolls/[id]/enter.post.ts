import { enterRollSchema } from '../../../../shared/rolls'
import { route } from '../../../http/handle'
import { body, idParam } from '../../../http/input'
import { startRoll } from '../../../jobs/jobs'
import { runtime } from '../../../runtime'

export default route(async ({ event, caller }) =>
  startRoll(caller, await runtime().queue(), 'enter-roll', idParam(event), (await body(event, enterRollSchema)).reason)
)
