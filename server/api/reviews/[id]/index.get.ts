import { reviewQuerySchema } from '../../../../shared/eligibility'
import { route } from '../../../http/handle'
import { idParam, query } from '../../../http/input'
import { readReview } from '../../../services/eligibility/reviews'

export default route(async ({ event, caller }) => readReview(caller, idParam(event), query(event, reviewQuerySchema)))
