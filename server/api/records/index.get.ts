import { z } from 'zod'
import { route } from '../../http/handle'
import { query } from '../../http/input'
import { readRecords } from '../../services/records/audit'

const recordsSchema = z.object({ before: z.coerce.number().int().positive().optional(), subject: z.string().max(100).optional() })

export default route(async ({ event, caller }) => readRecords(caller, query(event, recordsSchema)))
