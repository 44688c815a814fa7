import { oneOfParam, route, textParam } from '../../../../http/handle'
import { jobKinds, newestJob } from '../../../../jobs/jobs'

export default route(async ({ event, context }) => ({ job: await newestJob(context, oneOfParam(event, 'kind', jobKinds), textParam(event, 'cycle')) }))
