import { z } from 'zod'
import { route } from '../../../http/handle'
import { query } from '../../../http/input'
import { comparedPeople } from '../../../services/centres/compare'

const pageSchema = z.object({
  first: z.uuid(),
  second: z.uuid(),
  side: z.enum(['gain', 'lose']),
  afterPoints: z.coerce.number().int().optional(),
  afterNumber: z.string().max(40).optional(),
})

export default route(async ({ event, caller }) => {
  const { first, second, side, afterPoints, afterNumber } = query(event, pageSchema)
  return comparedPeople(
    caller,
    first,
    second,
    side,
    afterPoints === undefined || afterNumber === undefined ? undefined : { points: afterPoints, number: afterNumber },
  )
})
