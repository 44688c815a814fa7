import { route } from '../../../../http/handle'
import { textParam } from '../../../../http/input'
import { readQueue } from '../../../../services/scrutiny/queue'

export default route(({ event, caller }) => readQueue(caller, textParam(event, 'cycle')))
