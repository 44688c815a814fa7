import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { startRoll } from '../../../jobs/jobs'
import { runtime } from '../../../runtime'

export default route(async ({ event, caller }) => startRoll(caller, await runtime().queue(), 'try-roll', idParam(event)))
