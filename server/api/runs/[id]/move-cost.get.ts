import { z } from 'zod'
import { idParam, query, route } from '../../../http/handle'
import { runtime } from '../../../runtime'
import { costOfMove } from '../../../services/centres/moves'

const moveSchema = z.object({ application: z.uuid(), city: z.string().min(1).max(60) })

export default route(async ({ event, context }) => {
  const { application, city } = await query(event, moveSchema)
  return costOfMove(context, idParam(event), application, city, runtime().solve)
})
