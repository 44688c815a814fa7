import { z } from 'zod'
import { route } from '../../../http/handle'
import { query, textParam } from '../../../http/input'
import { listCorrections } from '../../../services/corrections/view'

const pageSchema = z.object({ after: z.string().regex(/^\d{4}-[0-9TZ:.-]{10,30}~[0-9a-f-]{36}$/).optional() })

export default route(({ event, caller }) => listCorrections(caller, textParam(event, 'cycle'), query(event, pageSchema).after))
