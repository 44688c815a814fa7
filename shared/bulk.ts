import { z } from 'zod'
import { payingWays } from '../core/notice/schema'
import { permit, type NamedAct } from './acts'
import { rosterFilterSchema } from './applications'

/** Acts that may be done on everybody who matches a question to the roster: they need a reason at most. */
export const bulkActs = ['withdraw', 'bring-back', 'take-back-acceptance', 'recall-return', 'close-correction', 'withhold-card',
  'let-card-go', 'void-card'] as const satisfies readonly NamedAct[]
export const bulkSchema = z.strictObject({ filter: rosterFilterSchema, act: z.enum(bulkActs), mode: z.enum(['try', 'do']), ...permit })
export type BulkAct = z.infer<typeof bulkSchema>

/** One payment for those of a list of the roster who owe. */
export const payListSchema = z.strictObject({ ...permit, way: z.enum(payingWays).optional(), filter: rosterFilterSchema })
