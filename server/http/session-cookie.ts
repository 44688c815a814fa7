import { randomBytes } from 'node:crypto'
import { deleteCookie, getCookie, setCookie, type H3Event } from 'h3'
import type { Principal } from '../../core/access/principal'
import type { SignedIn } from '../services/people/sign-in'
import { originOf } from './proxy'

/**
 * Cookies of a session. Behind TLS their names begin with `__Host-`, so that browsers keep them for this very host, send them over TLS
 * only, and take them from nobody else (RFC 6265bis, section 4.1.3.2). An office without a certificate on its own network gets plain ones.
 */
const cookieNames = { session: 'lucid-session', mark: 'lucid-device' } as const
const nameOf = (event: H3Event, which: keyof typeof cookieNames) =>
  originOf(event).isSecure ? `__Host-${cookieNames[which]}` : cookieNames[which]

/** The token of the session, as the browser sent it. */
export const sessionToken = (event: H3Event): string | undefined => getCookie(event, nameOf(event, 'session'))

const settings = (event: H3Event) => ({ httpOnly: true, sameSite: 'strict' as const, path: '/', secure: originOf(event).isSecure })
const markDays = 400

/** A mark for this browser, made where it has none: given to whoever signs in, and kept by the browser when they did. */
export function markOf(event: H3Event): string {
  return getCookie(event, nameOf(event, 'mark')) ?? randomBytes(18).toString('base64url')
}

/** Gives a new session to the browser, and tells its page who is signed in. */
export function keepSession(
  event: H3Event,
  signedIn: SignedIn,
  mark?: string,
): { principal: Principal, csrfToken: string, others: number } {
  setCookie(event, nameOf(event, 'session'), signedIn.token, { ...settings(event), expires: signedIn.expiresAt })
  if (mark) setCookie(event, nameOf(event, 'mark'), mark, { ...settings(event), maxAge: markDays * 86_400 })
  return { principal: signedIn.principal, csrfToken: signedIn.csrfToken, others: signedIn.others }
}

/** Takes the session from the browser. */
export function forgetSession(event: H3Event): void {
  deleteCookie(event, nameOf(event, 'session'), settings(event))
}
