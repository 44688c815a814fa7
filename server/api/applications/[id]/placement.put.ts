import { handPlacementSchema } from '../../../../shared/centres'
import { body, idParam, route } from '../../../http/handle'
import { placeByHand } from '../../../services/centres/moves'

export default route(async ({ event, context }) => {
  const { city, reason } = await body(event, handPlacementSchema)
  await placeByHand(context, idParam(event), city, reason)
  return { placed: city }
})
