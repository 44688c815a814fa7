import { newRoomSchema } from '../../../../shared/places'
import { route } from '../../../http/handle'
import { body, textParam } from '../../../http/input'
import { addRoom } from '../../../services/centres/rooms'

export default route(async ({ event, caller }) => addRoom(caller, textParam(event, 'cycle'), await body(event, newRoomSchema)))
