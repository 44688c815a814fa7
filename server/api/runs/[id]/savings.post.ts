import { savingsRequestSchema } from '../../../../shared/centres'
import { route } from '../../../http/handle'
import { body, idParam } from '../../../http/input'
import { runtime } from '../../../runtime'
import { computeSavings } from '../../../services/centres/savings'

export default route(async ({ event, caller }) => {
  const { cities, seats } = await body(event, savingsRequestSchema)
  return computeSavings(caller, idParam(event), cities, seats, runtime().solve)
})
