import { z } from 'zod'
import { rosterFilterSchema } from './applications'

/** Most people that one bill is for. */
export const billedAtMost = 500
const payer = z.string().trim().min(2).max(140)
export const billSchema = z.strictObject({ applications: z.array(z.uuid()).min(1).max(billedAtMost), payer: payer.optional() })
export type BillInput = z.infer<typeof billSchema>
export const billListSchema = z.strictObject({ filter: rosterFilterSchema, payer })
export const billPayerSchema = z.strictObject({ payer: z.string().min(1).max(60) })
export const billQuerySchema = z.object({ after: z.string().max(80).optional() })

/** A bill for several: what it asked for, and what of that is still due, in minor units. */
export interface BillView {
  id: string
  number: string
  reference: string
  payer: string
  people: number
  asked: number
  due: number
  currency: string
  by: string
  at: string
  withdrawn: { by: string, at: string } | null
}
/** A payer whom the notice names: how many fees wait for them, and how many of those stand on no bill of theirs. */
export interface PayerView {
  code: string
  title: string
  people: number
  unbilled: number
}
export interface BillPage {
  bills: BillView[]
  next: string | null
  payers: PayerView[]
}
