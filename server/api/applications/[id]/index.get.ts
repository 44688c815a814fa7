import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { readDossier } from '../../../services/applications/dossier'

export default route(({ event, caller }) => readDossier(caller, idParam(event)), { asCandidate: true })
