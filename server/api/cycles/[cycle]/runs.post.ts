import { runRequestSchema } from '../../../../shared/centres'
import { route } from '../../../http/handle'
import { body, textParam } from '../../../http/input'
import { startRun } from '../../../jobs/jobs'
import { runtime } from '../../../runtime'

export default route(async ({ event, caller }) =>
  startRun(caller, await runtime().queue(), textParam(event, 'cycle'), await body(event, runRequestSchema))
)
