import { z } from 'zod'
import { password } from '../../../shared/people'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { setSecondFactor } from '../../services/people/second-factor'

const factorSchema = z.strictObject({ secret: z.string().max(64), code: z.string().max(20), password })

export default route(async ({ event, caller }) => setSecondFactor(caller, await body(event, factorSchema)))
