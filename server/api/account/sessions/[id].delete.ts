import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { endOwnSession, ownSessions } from '../../../services/people/sign-in'

export default route(async ({ event, caller, session }) => {
  await endOwnSession(caller, { id: idParam(event) })
  return ownSessions(caller, session?.id ?? null)
})
