import { rosterFilterSchema } from '../../../../../shared/applications'
import { route } from '../../../../http/handle'
import { query, textParam } from '../../../../http/input'
import { readAlike } from '../../../../services/roster/page'

export default route(({ event, caller }) => readAlike(caller, textParam(event, 'cycle'), query(event, rosterFilterSchema)))
