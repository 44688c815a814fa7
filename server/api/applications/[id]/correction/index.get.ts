import { route } from '../../../../http/handle'
import { idParam } from '../../../../http/input'
import { readCorrection } from '../../../../services/corrections/view'

export default route(({ event, caller }) => readCorrection(caller, idParam(event)), { asCandidate: true })
