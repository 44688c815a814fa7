import { handPlacementSchema } from '../../../../shared/centres'
import { route } from '../../../http/handle'
import { body, idParam } from '../../../http/input'
import { placeByHand } from '../../../services/centres/moves'

export default route(async ({ event, caller }) => {
  const { city, reason } = await body(event, handPlacementSchema)
  await placeByHand(caller, idParam(event), city, { reason })
  return { placed: city }
})
