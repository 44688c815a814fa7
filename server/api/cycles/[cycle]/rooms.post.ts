import { newRoomSchema } from '../../../../shared/centres'
import { body, route, textParam } from '../../../http/handle'
import { addRoom } from '../../../services/notice/notices'

export default route(async ({ event, context }) => addRoom(context, textParam(event, 'cycle'), await body(event, newRoomSchema)))
