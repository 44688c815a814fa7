import { route } from '../../http/handle'
import { forgetSession, sessionToken } from '../../http/session-cookie'
import { signOut } from '../../services/people/sign-in'

export default route(async ({ event, caller }) => {
  await signOut(caller, sessionToken(event) ?? '')
  forgetSession(event)
  return { ok: true }
})
