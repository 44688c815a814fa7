import { idParam, route } from '../../../http/handle'
import { acceptReview } from '../../../services/eligibility/reviews'

export default route(({ event, context }) => acceptReview(context, idParam(event)))
