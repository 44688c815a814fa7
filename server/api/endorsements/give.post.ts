import { giveEndorsementSchema } from '../../../shared/endorsements'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { networkOf, originOf } from '../../http/proxy'
import { giveEndorsement } from '../../services/endorsements/give'

export default route(
  async ({ event, caller }) => giveEndorsement(caller, await body(event, giveEndorsementSchema), networkOf(originOf(event).address)),
  { anonymous: true },
)
