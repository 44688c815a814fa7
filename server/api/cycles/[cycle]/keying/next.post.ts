import { route } from '../../../../http/handle'
import { textParam } from '../../../../http/input'
import { nextToKey } from '../../../../services/keying/second'

export default route(({ event, caller }) => nextToKey(caller, textParam(event, 'cycle')))
