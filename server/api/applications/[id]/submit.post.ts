import { body, idParam, route } from '../../../http/handle'
import { submitApplication } from '../../../services/applications/intake'
import { readDossier } from '../../../services/applications/dossier'
import { submitSchema } from '../../../../shared/applications'

export default route(async ({ event, context }) => {
  await submitApplication(context, idParam(event), await body(event, submitSchema))
  return readDossier(context, idParam(event))
})
