import { z } from 'zod'
import { password } from '../../../shared/people'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { changeOwnPassword } from '../../services/people/account'

const passwordSchema = z.strictObject({ present: password, password })

export default route(async ({ event, caller, session }) => {
  await changeOwnPassword(caller, { ...await body(event, passwordSchema), sessionId: session?.id ?? null })
  return { changed: true }
})
