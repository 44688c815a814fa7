import { setCookie } from 'h3'
import { z } from 'zod'
import { addressOf, body, route, sessionCookie } from '../../http/handle'
import { signIn } from '../../services/people/sign-in'

const signInSchema = z.object({ signInName: z.string().trim().min(1).max(100), password: z.string().min(1).max(200) })

export default route(async ({ event, context }) => {
  const signedIn = await signIn(context, { ...await body(event, signInSchema), address: addressOf(event) })
  // Not "secure": the office's own network may have no certificate; behind https the proxy adds it.
  setCookie(event, sessionCookie, signedIn.token, { httpOnly: true, sameSite: 'strict', path: '/', expires: signedIn.expiresAt, secure: event.node.req.headers['x-forwarded-proto'] === 'https' })
  return { actor: signedIn.actor, csrfToken: signedIn.csrfToken }
}, { anonymous: true })
