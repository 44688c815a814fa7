import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { readCandidateAccount, removeAddress } from '../../../services/candidates/account'

export default route(async ({ event, caller, session }) => {
  const sessionId = session?.id ?? null
  await removeAddress(caller, idParam(event), sessionId)
  return readCandidateAccount(caller, sessionId)
})
