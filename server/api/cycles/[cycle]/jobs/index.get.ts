import { route } from '../../../../http/handle'
import { textParam } from '../../../../http/input'
import { listJobs } from '../../../../jobs/jobs'

export default route(({ event, caller }) => listJobs(caller, textParam(event, 'cycle')))
