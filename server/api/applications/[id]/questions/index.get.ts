import { route } from '../../../../http/handle'
import { idParam } from '../../../../http/input'
import { questionsOf } from '../../../../services/letters/questions'

export default route(({ event, caller }) => questionsOf(caller, idParam(event)), { asCandidate: true })
