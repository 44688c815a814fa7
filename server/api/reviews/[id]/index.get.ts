import { reviewQuerySchema } from '../../../../shared/eligibility'
import { idParam, query, route } from '../../../http/handle'
import { readReview } from '../../../services/eligibility/reviews'

export default route(async ({ event, context }) => readReview(context, idParam(event), await query(event, reviewQuerySchema)))
