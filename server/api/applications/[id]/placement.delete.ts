import { handPlacementSchema } from '../../../../shared/centres'
import { body, idParam, route } from '../../../http/handle'
import { releasePlacement } from '../../../services/centres/moves'

export default route(async ({ event, context }) => {
  const { reason } = await body(event, handPlacementSchema.pick({ reason: true }))
  await releasePlacement(context, idParam(event), reason)
  return { released: true }
})
