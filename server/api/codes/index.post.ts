import { codeAskSchema } from '../../../shared/candidates'
import { addressOf, route } from '../../http/handle'
import { body } from '../../http/input'
import { sendCode } from '../../services/candidates/codes'

export default route(async ({ event, caller }) => sendCode(caller, { ...await body(event, codeAskSchema), network: addressOf(event) }), { anonymous: true })
