import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { sendAgain } from '../../../services/letters/outbox'

export default route(({ event, caller }) => sendAgain(caller, idParam(event)))
