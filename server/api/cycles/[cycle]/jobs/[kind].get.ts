import { route } from '../../../../http/handle'
import { oneOfParam, textParam } from '../../../../http/input'
import { newestJob, workKinds } from '../../../../jobs/jobs'

export default route(async ({ event, caller }) => ({
  job: await newestJob(caller, oneOfParam(event, 'kind', workKinds), textParam(event, 'cycle')),
}))
