import { route } from '../../../../../http/handle'
import { textParam } from '../../../../../http/input'
import { listViews } from '../../../../../services/roster/count'

export default route(({ event, caller }) => listViews(caller, textParam(event, 'cycle')))
