import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { acceptReview } from '../../../services/eligibility/reviews'

export default route(({ event, caller }) => acceptReview(caller, idParam(event)))
