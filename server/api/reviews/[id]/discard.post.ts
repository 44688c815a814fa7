import { idParam, route } from '../../../http/handle'
import { discardReview } from '../../../services/eligibility/reviews'

export default route(({ event, context }) => discardReview(context, idParam(event)))
