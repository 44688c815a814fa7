import { deleteCookie, getCookie } from 'h3'
import { route, sessionCookie } from '../../http/handle'
import { signOut } from '../../services/people/sign-in'

export default route(async ({ event, caller }) => {
  await signOut(caller, getCookie(event, sessionCookie) ?? '')
  deleteCookie(event, sessionCookie, { path: '/' })
  return { ok: true }
})
