import { idParam, route } from '../../http/handle'
import { cancelJob } from '../../jobs/jobs'

export default route(({ event, context }) => cancelJob(context, idParam(event)))
