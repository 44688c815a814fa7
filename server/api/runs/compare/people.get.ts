import { z } from 'zod'
import { query, route } from '../../../http/handle'
import { comparedPeople } from '../../../services/centres/compare'

const pageSchema = z.object({ first: z.uuid(), second: z.uuid(), side: z.enum(['gain', 'lose']), offset: z.coerce.number().int().min(0).max(10_000_000).default(0) })

export default route(async ({ event, context }) => {
  const { first, second, side, offset } = await query(event, pageSchema)
  return comparedPeople(context, first, second, side, offset)
})
