import { route } from '../../../../http/handle'
import { idParam } from '../../../../http/input'
import { slipsOf } from '../../../../services/bank/paid-slips'

export default route(({ event, caller }) => slipsOf(caller, idParam(event)), { asCandidate: true })
