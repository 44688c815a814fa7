import { route } from '../../../../http/handle'
import { textParam } from '../../../../http/input'
import { runtime } from '../../../../runtime'
import { tryNow } from '../../../../services/centres/demand'

export default route(({ event, caller }) => tryNow(caller, textParam(event, 'cycle'), runtime().solve))
