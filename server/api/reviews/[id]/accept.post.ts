import { acceptanceSchema } from '../../../../shared/eligibility'
import { route } from '../../../http/handle'
import { body, idParam } from '../../../http/input'
import { acceptReview } from '../../../services/eligibility/take-over'

export default route(async ({ event, caller }) => acceptReview(caller, idParam(event), await body(event, acceptanceSchema)))
