import { route } from '../../../../http/handle'
import { idParam } from '../../../../http/input'
import { takeBackEndorsement } from '../../../../services/endorsements/ask'
import { endorsementsOf } from '../../../../services/endorsements/give'

export default route(async ({ event, caller }) => {
  const id = idParam(event)
  await takeBackEndorsement(caller, id, idParam(event, 'endorsement'))
  return endorsementsOf(caller, id)
})
