import { body, idParam, route } from '../../../http/handle'
import { decide } from '../../../services/scrutiny/decisions'
import { readDossier } from '../../../services/applications/dossier'
import { decisionSchema } from '../../../../shared/scrutiny'

export default route(async ({ event, context }) => {
  await decide(context, idParam(event), await body(event, decisionSchema))
  return readDossier(context, idParam(event))
})
