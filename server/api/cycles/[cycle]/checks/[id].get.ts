import { route } from '../../../../http/handle'
import { textParam } from '../../../../http/input'
import { readCheckValues } from '../../../../services/scrutiny/checks'

export default route(({ event, caller }) => readCheckValues(caller, textParam(event, 'cycle'), textParam(event, 'id')))
