import { route } from '../../../../http/handle'
import { textParam } from '../../../../http/input'
import { readCheckRecords } from '../../../../services/scrutiny/checks'

export default route(({ event, caller }) => readCheckRecords(caller, textParam(event, 'cycle')))
