import { setCookie, type H3Event } from 'h3'
import type { Principal } from '../../core/access/principal'
import type { SignedIn } from '../services/people/sign-in'
import { sessionCookie } from './handle'

/** Gives a new session to the browser, and tells its page who is signed in. */
export function keepSession(event: H3Event, signedIn: SignedIn): { principal: Principal, csrfToken: string } {
  // Not always "secure": the office's own network may have no certificate; behind https the proxy says so.
  setCookie(event, sessionCookie, signedIn.token, { httpOnly: true, sameSite: 'strict', path: '/', expires: signedIn.expiresAt, secure: event.node.req.headers['x-forwarded-proto'] === 'https' })
  return { principal: signedIn.principal, csrfToken: signedIn.csrfToken }
}
