import { recordEndorsementSchema } from '../../../../../shared/endorsements'
import { route } from '../../../../http/handle'
import { body, idParam } from '../../../../http/input'
import { recordEndorsement } from '../../../../services/endorsements/ask'
import { endorsementsOf } from '../../../../services/endorsements/give'

export default route(async ({ event, caller }) => {
  const id = idParam(event)
  await recordEndorsement(caller, id, await body(event, recordEndorsementSchema))
  return endorsementsOf(caller, id)
})
