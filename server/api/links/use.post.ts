import { getHeader } from 'h3'
import { z } from 'zod'
import { password } from '../../../shared/people'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { keepSession } from '../../http/session-cookie'
import { useLink } from '../../services/people/staff'

const useSchema = z.strictObject({ token: z.string().min(1).max(100), password })

/** Sets the password by a one-time link, and signs in. */
export default route(
  async ({ event, caller }) =>
    keepSession(event, await useLink(caller, { ...await body(event, useSchema), device: getHeader(event, 'user-agent') })),
  { anonymous: true },
)
