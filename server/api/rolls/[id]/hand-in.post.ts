import { handInRollSchema } from '../../../../shared/rolls'
import { route } from '../../../http/handle'
import { body, idParam } from '../../../http/input'
import { startRoll } from '../../../jobs/jobs'
import { runtime } from '../../../runtime'

export default route(async ({ event, caller }) =>
  startRoll(caller, await runtime().queue(), 'hand-in-roll', idParam(event), (await body(event, handInRollSchema)).reason)
)
