import { newRoomSchema } from '../../../../shared/centres'
import { route } from '../../../http/handle'
import { body, textParam } from '../../../http/input'
import { addRoom } from '../../../services/centres/register'

export default route(async ({ event, caller }) => addRoom(caller, textParam(event, 'cycle'), await body(event, newRoomSchema)))
