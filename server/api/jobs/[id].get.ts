import { idParam, route } from '../../http/handle'
import { readJob } from '../../jobs/jobs'

export default route(({ event, context }) => readJob(context, idParam(event)))
