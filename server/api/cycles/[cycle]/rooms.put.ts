import { registerModeSchema, roomsChangeSchema } from '../../../../shared/places'
import { route } from '../../../http/handle'
import { body, query, textParam } from '../../../http/input'
import { changeRooms } from '../../../services/centres/rooms'

export default route(async ({ event, caller }) =>
  changeRooms(caller, textParam(event, 'cycle'), await body(event, roomsChangeSchema), query(event, registerModeSchema).mode)
)
