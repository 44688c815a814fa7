import { savingsRequestSchema } from '../../../../shared/centres'
import { body, idParam, route } from '../../../http/handle'
import { runtime } from '../../../runtime'
import { computeSavings } from '../../../services/centres/savings'

export default route(async ({ event, context }) => {
  const { cities, seats } = await body(event, savingsRequestSchema)
  return computeSavings(context, idParam(event), cities, seats, runtime().solve)
})
