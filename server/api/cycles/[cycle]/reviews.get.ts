import { route } from '../../../http/handle'
import { textParam } from '../../../http/input'
import { listReviews } from '../../../services/eligibility/reviews'

export default route(({ event, caller }) => listReviews(caller, textParam(event, 'cycle')))
