import { z } from 'zod'
import { route } from '../../../http/handle'
import { query, textParam } from '../../../http/input'
import { listPairs } from '../../../services/scrutiny/pairs'

const pageSchema = z.object({ after: z.string().regex(/^\d{1,3}~[0-9a-f-]{36}$/).optional(), of: z.uuid().optional() })

export default route(({ event, caller }) => listPairs(caller, textParam(event, 'cycle'), query(event, pageSchema)))
