import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { takeInHand } from '../../../services/scrutiny/queue'

export default route(async ({ event, caller }) => ({ taken: await takeInHand(caller, idParam(event, 'id')) }))
