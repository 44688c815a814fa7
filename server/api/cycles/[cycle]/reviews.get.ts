import { route, textParam } from '../../../http/handle'
import { listReviews } from '../../../services/eligibility/reviews'

export default route(({ event, context }) => listReviews(context, textParam(event, 'cycle')))
