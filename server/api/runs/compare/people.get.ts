import { z } from 'zod'
import { query, route } from '../../../http/handle'
import { comparedPeople } from '../../../services/centres/compare'

const pageSchema = z.object({ first: z.uuid(), second: z.uuid(), side: z.enum(['gain', 'lose']), afterPoints: z.coerce.number().int().optional(), afterNumber: z.string().max(40).optional() })

export default route(async ({ event, context }) => {
  const { first, second, side, afterPoints, afterNumber } = await query(event, pageSchema)
  return comparedPeople(context, first, second, side, afterPoints === undefined || afterNumber === undefined ? undefined : { points: afterPoints, number: afterNumber })
})
