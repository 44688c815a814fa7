import { runRequestSchema } from '../../../../shared/centres'
import { body, route, textParam } from '../../../http/handle'
import { startRun } from '../../../jobs/jobs'
import { runtime } from '../../../runtime'

export default route(async ({ event, context }) =>
  startRun(context, await runtime().queue(), textParam(event, 'cycle'), await body(event, runRequestSchema)))
