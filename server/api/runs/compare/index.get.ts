import { z } from 'zod'
import { route } from '../../../http/handle'
import { query } from '../../../http/input'
import { compareRuns } from '../../../services/centres/compare'

const pairSchema = z.object({ first: z.uuid(), second: z.uuid() })

export default route(async ({ event, caller }) => {
  const { first, second } = query(event, pairSchema)
  return compareRuns(caller, first, second)
})
