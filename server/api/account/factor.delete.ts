import { z } from 'zod'
import { password } from '../../../shared/people'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { removeSecondFactor } from '../../services/people/second-factor'

export default route(async ({ event, caller }) => {
  await removeSecondFactor(caller, await body(event, z.strictObject({ password })))
  return { removed: true }
})
