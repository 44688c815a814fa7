import { codeAskSchema } from '../../../shared/candidates'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { networkOf, originOf } from '../../http/proxy'
import { runtime } from '../../runtime'
import { sendCode } from '../../services/candidates/codes'

export default route(
  async ({ event, caller }) =>
    sendCode(caller, { ...await body(event, codeAskSchema), network: networkOf(originOf(event).address), secret: runtime().proofSecret }),
  { anonymous: true },
)
