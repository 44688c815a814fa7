import { reviewStartSchema } from '../../../../shared/eligibility'
import { route } from '../../../http/handle'
import { body, textParam } from '../../../http/input'
import { startReview } from '../../../jobs/jobs'
import { runtime } from '../../../runtime'

export default route(async ({ event, caller }) =>
  startReview(caller, await runtime().queue(), textParam(event, 'cycle'), await body(event, reviewStartSchema))
)
