import { z } from 'zod'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { readLink } from '../../services/people/staff'

const linkSchema = z.strictObject({ token: z.string().min(1).max(100) })

/** Whom a one-time link is for. The token comes in the body, so that no log of addresses holds it. */
export default route(async ({ event, caller }) => readLink(caller, (await body(event, linkSchema)).token), { anonymous: true })
