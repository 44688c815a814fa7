import { route } from '../../../http/handle'
import { endOwnSession, ownSessions } from '../../../services/people/sign-in'

/** Ends all of one's sessions but this one. */
export default route(async ({ caller, session }) => {
  if (session) await endOwnSession(caller, { allBut: session.id })
  return ownSessions(caller, session?.id ?? null)
})
