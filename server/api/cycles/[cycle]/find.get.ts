import { z } from 'zod'
import { query, route, textParam } from '../../../http/handle'
import { findPeople } from '../../../services/applications/roster'

const findSchema = z.object({ q: z.string().max(100) })

export default route(async ({ event, context }) => findPeople(context, textParam(event, 'cycle'), (await query(event, findSchema)).q))
