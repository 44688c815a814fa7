import { rulingSchema } from '../../../../../../shared/eligibility'
import { body, idParam, route, textParam } from '../../../../../http/handle'
import { readDossier } from '../../../../../services/applications/dossier'
import { ruleOnClaim } from '../../../../../services/eligibility/claims'

export default route(async ({ event, context }) => {
  const id = idParam(event)
  await ruleOnClaim(context, id, textParam(event, 'claim'), await body(event, rulingSchema))
  return readDossier(context, id)
})
