import { route } from '../../../../http/handle'
import { idParam } from '../../../../http/input'
import { endorsementsOf } from '../../../../services/endorsements/give'

export default route(({ event, caller }) => endorsementsOf(caller, idParam(event)), { asCandidate: true })
