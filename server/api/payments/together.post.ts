import { togetherSchema } from '../../../shared/acts'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { openTogether } from '../../services/fees/together'
import { runtime } from '../../runtime'

export default route(async ({ event, caller }) => {
  const { applications, ...given } = await body(event, togetherSchema)
  return openTogether(caller, runtime().gateway, applications, given)
})
