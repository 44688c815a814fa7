import { handPlacementSchema } from '../../../../shared/centres'
import { route } from '../../../http/handle'
import { body, idParam } from '../../../http/input'
import { releasePlacement } from '../../../services/centres/moves'

export default route(async ({ event, caller }) => {
  const { reason } = await body(event, handPlacementSchema.pick({ reason: true }))
  await releasePlacement(caller, idParam(event), { reason })
  return { released: true }
})
