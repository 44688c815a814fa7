import { route } from '../../http/handle'
import { idParam } from '../../http/input'
import { readJob } from '../../jobs/jobs'

export default route(({ event, caller }) => readJob(caller, idParam(event)))
