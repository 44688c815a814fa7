import { route } from '../../../../http/handle'
import { query, textParam } from '../../../../http/input'
import { readRoster } from '../../../../services/roster/page'
import { rosterQuerySchema } from '../../../../../shared/applications'

export default route(async ({ event, caller }) => readRoster(caller, textParam(event, 'cycle'), query(event, rosterQuerySchema)))
