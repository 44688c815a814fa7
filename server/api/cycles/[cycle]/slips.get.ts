import { z } from 'zod'
import { route } from '../../../http/handle'
import { query, textParam } from '../../../http/input'
import { waitingSlips } from '../../../services/bank/paid-slips'

const pageSchema = z.object({ after: z.string().max(100).optional() })

export default route(({ event, caller }) => waitingSlips(caller, textParam(event, 'cycle'), query(event, pageSchema).after))
