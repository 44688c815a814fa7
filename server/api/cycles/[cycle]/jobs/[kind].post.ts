import { oneOfParam, route, textParam } from '../../../../http/handle'
import { plainJobKinds, startJob } from '../../../../jobs/jobs'
import { runtime } from '../../../../runtime'

export default route(async ({ event, context }) =>
  startJob(context, await runtime().queue(), oneOfParam(event, 'kind', plainJobKinds), textParam(event, 'cycle')))
