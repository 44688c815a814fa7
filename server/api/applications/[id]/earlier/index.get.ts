import { route } from '../../../../http/handle'
import { idParam } from '../../../../http/input'
import { earlierForms } from '../../../../services/applications/earlier'

export default route(({ event, caller }) => earlierForms(caller, idParam(event)), { asCandidate: true })
