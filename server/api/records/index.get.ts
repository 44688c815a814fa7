import { z } from 'zod'
import { query, route } from '../../http/handle'
import { readRecords } from '../../services/records/audit'

const recordsSchema = z.object({ before: z.coerce.number().int().positive().optional(), subject: z.string().max(100).optional() })

export default route(async ({ event, context }) => readRecords(context, await query(event, recordsSchema)))
