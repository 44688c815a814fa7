import { rosterFilterSchema } from '../../../../../shared/applications'
import { route } from '../../../../http/handle'
import { query, textParam } from '../../../../http/input'
import { countRoster } from '../../../../services/roster/count'

export default route(({ event, caller }) => countRoster(caller, textParam(event, 'cycle'), query(event, rosterFilterSchema)))
