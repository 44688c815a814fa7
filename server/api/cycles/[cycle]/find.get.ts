import { z } from 'zod'
import { route } from '../../../http/handle'
import { query, textParam } from '../../../http/input'
import { findPeople } from '../../../services/roster/page'

const findSchema = z.object({ q: z.string().max(100) })

export default route(async ({ event, caller }) => findPeople(caller, textParam(event, 'cycle'), (query(event, findSchema)).q))
