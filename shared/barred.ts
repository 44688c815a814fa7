import { z } from 'zod'
import type { Identity, PairReason } from '../core/identity/likely-pair'
import type { Headline } from '../core/application/tracks'

const day = z.string().regex(/^\d{4}-\d\d-\d\d$/)
const why = z.string().trim().min(3).max(1000)
const fact = (most: number) => z.string().trim().max(most).default('')
/** Somebody barred, as an officer enters them: a name with a day of birth, or the number of a paper, tells who it is. */
export const barredSchema = z.strictObject({
  name: fact(200),
  bornOn: z.union([day, z.literal('')]).default(''),
  identityNumber: fact(60),
  mobile: fact(30),
  email: fact(200),
  reason: why,
  until: z.union([day, z.literal('')]).default(''),
}).refine(
  one => one.identityNumber !== '' || (one.name !== '' && one.bornOn !== ''),
  'a name with a day of birth, or the number of a paper',
)
export type BarredInput = z.output<typeof barredSchema>
export const liftSchema = z.strictObject({ reason: why })
export const barredJudgementSchema = z.strictObject({ result: z.enum(['same', 'different']), reason: why })

export interface BarredView {
  id: string
  name: string
  bornOn: string
  identityNumber: string
  reason: string
  until: string | null
  by: string
  at: string
  lifted: { by: string, at: string, reason: string } | null
}
export interface BarredMatchView {
  id: string
  applicationId: string
  number: string
  headline: Headline
  applicant: Identity
  barred: BarredView
  barredIdentity: Identity
  score: number
  reasons: PairReason[]
  state: 'open' | 'same' | 'different'
  reason: string | null
  by: string | null
}
export interface BarredPage {
  people: BarredView[]
  matches: BarredMatchView[]
}
/** What became of a list: those added, those that stood there already, and rows with faults. With a fault nothing is added. */
export interface BarredTaken {
  added: number
  repeated: number
  faults: { row: number, cell: string, why: 'who' | 'reason' | 'date' }[]
}
