import { z } from 'zod'
import { query, route } from '../../../http/handle'
import { compareRuns } from '../../../services/centres/compare'

const pairSchema = z.object({ first: z.uuid(), second: z.uuid() })

export default route(async ({ event, context }) => {
  const { first, second } = await query(event, pairSchema)
  return compareRuns(context, first, second)
})
