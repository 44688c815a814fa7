import { addAddressSchema } from '../../../../shared/candidates'
import { route } from '../../../http/handle'
import { body } from '../../../http/input'
import { addAddress, readCandidateAccount } from '../../../services/candidates/account'

export default route(async ({ event, caller, session }) => {
  const sessionId = session?.id ?? null
  await addAddress(caller, { ...await body(event, addAddressSchema), sessionId })
  return readCandidateAccount(caller, sessionId)
})
