import { z } from 'zod'
import { idParam, query, route } from '../../../http/handle'
import { readRun } from '../../../services/centres/runs'

const runSchema = z.object({ city: z.string().max(60).optional() })

export default route(async ({ event, context }) => readRun(context, idParam(event), (await query(event, runSchema)).city ?? null))
