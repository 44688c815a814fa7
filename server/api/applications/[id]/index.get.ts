import { idParam, route } from '../../../http/handle'
import { readDossier } from '../../../services/applications/dossier'

export default route(({ event, context }) => readDossier(context, idParam(event)))
