import { z } from 'zod'
import { route } from '../../../http/handle'
import { idParam, query } from '../../../http/input'
import { runtime } from '../../../runtime'
import { costOfMove } from '../../../services/centres/moves'

const moveSchema = z.object({ application: z.uuid(), city: z.string().min(1).max(60) })

export default route(async ({ event, caller }) => {
  const { application, city } = query(event, moveSchema)
  return costOfMove(caller, idParam(event), application, city, runtime().solve)
})
