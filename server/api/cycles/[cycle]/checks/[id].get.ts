import { route, textParam } from '../../../../http/handle'
import { readCheckValues } from '../../../../services/scrutiny/checks'

export default route(({ event, context }) => readCheckValues(context, textParam(event, 'cycle'), textParam(event, 'id')))
