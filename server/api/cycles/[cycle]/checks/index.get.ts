import { route, textParam } from '../../../../http/handle'
import { readCheckRecords } from '../../../../services/scrutiny/checks'

export default route(({ event, context }) => readCheckRecords(context, textParam(event, 'cycle')))
