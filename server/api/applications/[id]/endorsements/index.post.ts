import { askEndorsementSchema } from '../../../../../shared/endorsements'
import { route } from '../../../../http/handle'
import { body, idParam } from '../../../../http/input'
import { askEndorsement } from '../../../../services/endorsements/ask'
import { endorsementsOf } from '../../../../services/endorsements/give'

export default route(async ({ event, caller }) => {
  const id = idParam(event)
  await askEndorsement(caller, id, await body(event, askEndorsementSchema))
  return endorsementsOf(caller, id)
})
