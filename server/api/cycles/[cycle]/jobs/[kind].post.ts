import { oneOfParam, route, textParam } from '../../../../http/handle'
import { jobKinds, startJob } from '../../../../jobs/jobs'
import { runtime } from '../../../../runtime'

export default route(async ({ event, context }) =>
  startJob(context, await runtime().queue(), oneOfParam(event, 'kind', jobKinds), textParam(event, 'cycle')))
