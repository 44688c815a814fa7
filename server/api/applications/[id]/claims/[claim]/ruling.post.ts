import { rulingSchema } from '../../../../../../shared/eligibility'
import { route } from '../../../../../http/handle'
import { body, idParam, textParam } from '../../../../../http/input'
import { readDossier } from '../../../../../services/applications/dossier'
import { ruleOnClaim } from '../../../../../services/eligibility/claims'

export default route(async ({ event, caller }) => {
  const id = idParam(event)
  await ruleOnClaim(caller, id, textParam(event, 'claim'), await body(event, rulingSchema))
  return readDossier(caller, id)
})
