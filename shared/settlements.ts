import { z } from 'zod'
import { answerSchema } from '../core/application/answer-schema'

const place = { question: z.string().min(1).max(60), row: z.int().min(0).max(999).nullable(), column: z.string().min(1).max(60).nullable() }

/** What holds at a place where two people have keyed a paper form differently. */
export const settlementSchema = z.union([z.strictObject({ ...place, keep: z.enum(['first', 'second']) }),
  z.strictObject({ ...place, keep: z.literal('anew'), answer: answerSchema })])
