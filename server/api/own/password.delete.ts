import { route } from '../../http/handle'
import { readCandidateAccount, removeCandidatePassword } from '../../services/candidates/account'

export default route(async ({ caller, session }) => {
  const sessionId = session?.id ?? null
  await removeCandidatePassword(caller, sessionId)
  return readCandidateAccount(caller, sessionId)
})
