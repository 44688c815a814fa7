import { getHeader } from 'h3'
import { z } from 'zod'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { networkOf, originOf } from '../../http/proxy'
import { keepSession, markOf } from '../../http/session-cookie'
import { signIn } from '../../services/people/sign-in'

const signInSchema = z.strictObject({
  signInName: z.string().trim().min(1).max(254),
  password: z.string().min(1).max(400),
  code: z.string().max(40).optional(),
})

export default route(async ({ event, caller }) => {
  const mark = markOf(event)
  return keepSession(
    event,
    await signIn(caller, {
      ...await body(event, signInSchema),
      network: networkOf(originOf(event).address),
      device: getHeader(event, 'user-agent'),
      mark,
    }),
    mark,
  )
}, { anonymous: true })
