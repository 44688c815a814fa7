import { route } from '../../http/handle'
import { idParam } from '../../http/input'
import { cancelJob } from '../../jobs/jobs'

export default route(({ event, caller }) => cancelJob(caller, idParam(event)))
