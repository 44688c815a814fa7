import { idParam, route } from '../../../http/handle'
import { startPublishing } from '../../../jobs/jobs'
import { runtime } from '../../../runtime'

export default route(async ({ event, context }) => startPublishing(context, await runtime().queue(), idParam(event)))
