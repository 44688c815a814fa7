import { openEndorsementSchema } from '../../../shared/endorsements'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { networkOf, originOf } from '../../http/proxy'
import { readEndorsement } from '../../services/endorsements/give'

export default route(
  async ({ event, caller }) =>
    readEndorsement(caller, (await body(event, openEndorsementSchema)).token, networkOf(originOf(event).address)),
  { anonymous: true },
)
