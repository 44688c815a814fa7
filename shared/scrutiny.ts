import { z } from 'zod'

export const decisionSchema = z.object({
  decision: z.enum(['accept', 'return', 'refuse']),
  reasons: z.array(z.object({ item: z.string().min(1).max(60), reason: z.string().trim().min(3, 'at least 3 characters').max(1000) })).max(50),
})
export type DecisionInput = z.infer<typeof decisionSchema>
