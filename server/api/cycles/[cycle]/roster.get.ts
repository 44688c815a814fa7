import { query, route, textParam } from '../../../http/handle'
import { readRoster } from '../../../services/applications/roster'
import { rosterQuerySchema } from '../../../../shared/applications'

export default route(async ({ event, context }) => readRoster(context, textParam(event, 'cycle'), await query(event, rosterQuerySchema)))
