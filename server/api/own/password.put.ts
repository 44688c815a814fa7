import { ownPasswordSchema } from '../../../shared/candidates'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { readCandidateAccount, setCandidatePassword } from '../../services/candidates/account'

export default route(async ({ event, caller, session }) => {
  const sessionId = session?.id ?? null
  await setCandidatePassword(caller, { ...await body(event, ownPasswordSchema), sessionId })
  return readCandidateAccount(caller, sessionId)
})
