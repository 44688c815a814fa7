import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { discardReview } from '../../../services/eligibility/reviews'

export default route(({ event, caller }) => discardReview(caller, idParam(event)))
