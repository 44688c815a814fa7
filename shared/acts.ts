import { z } from 'zod'
import { actIds, type ActId } from '../core/application/acts/rule'
import type { Permission } from '../core/access/permissions'
import type { ProposedAct } from '../core/application/acts/table'
import { channels } from '../core/identity/address'
import { desks } from '../core/application/open-matters'
import { payingWays } from '../core/notice/schema'
import { settlementSchema } from './settlements'
import { reasonSchema } from './scrutiny'

/** What every act may be asked with. `outsideDates` says that the person knows the notice's dates stand against it. */
export const permit = { reason: z.string().trim().max(1000).optional(), outsideDates: z.boolean().optional() }

/** The same alone, for what is asked for at an address of its own; may be absent. */
export const permitSchema = z.strictObject(permit).optional()

/** The same for a payment, with how it is to be paid. */
export const payingSchema = z.strictObject({ ...permit, way: z.enum(payingWays).optional() }).optional()

/** Most applications that one payment is for. */
export const togetherAtMost = 100
/** One payment for several. */
export const togetherSchema = z.strictObject({
  ...permit,
  way: z.enum(payingWays).optional(),
  applications: z.array(z.uuid()).min(1).max(togetherAtMost),
})

/**
 * A text that was read and is accepted, by the SHA-256 of its UTF-8 bytes: what was changed meanwhile is not accepted unread. `signature`
 * is the name or the initials that somebody typed, where the notice has it signed so.
 */
export const textReadSchema = z.strictObject({
  id: z.string().min(1).max(60),
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  signature: z.string().max(200).optional(),
})
export type TextRead = z.infer<typeof textReadSchema>

/** Acts that are asked for by name, each with what it needs. */
export const actInputs = {
  'delete-draft': z.strictObject(permit),
  'submit': z.strictObject({
    ...permit,
    revision: z.int().min(0).max(2 ** 31 - 1),
    declared: z.boolean(),
    texts: z.array(textReadSchema).max(20).default([]),
  }),
  'take-back-submission': z.strictObject(permit),
  'withdraw': z.strictObject(permit),
  'bring-back': z.strictObject(permit),
  'open-for-correction': z.strictObject({ ...permit, items: z.array(z.string().min(1).max(60)).min(1).max(60) }),
  'close-correction': z.strictObject(permit),
  'accept': z.strictObject({ ...permit, reasons: z.array(reasonSchema).max(50).default([]) }),
  'return': z.strictObject({ ...permit, reasons: z.array(reasonSchema).max(50) }),
  'refuse': z.strictObject({ ...permit, reasons: z.array(reasonSchema).max(50) }),
  'take-back-acceptance': z.strictObject(permit),
  'recall-return': z.strictObject(permit),
  'take-back-refusal': z.strictObject(permit),
  'reopen': z.strictObject(permit),
  'refer': z.strictObject({ ...permit, desk: z.enum(desks), until: z.iso.datetime({ offset: true }).optional() }),
  'answer-referral': z.strictObject(permit),
  'ask-for-fee': z.strictObject(permit),
  'take-back-slip': z.strictObject(permit),
  'confirm-slip': z.strictObject(permit),
  'refuse-slip': z.strictObject(permit),
  'decide-request': z.strictObject({ ...permit, request: z.string().min(1).max(60), word: z.enum(['granted', 'declined']) }),
  'waive-fee': z.strictObject({ ...permit, amount: z.int().min(1).max(1e12).optional() }),
  'write-off-fee': z.strictObject({ ...permit, amount: z.int().min(1).max(1e12).optional() }),
  'claim-fee-again': z.strictObject(permit),
  'accept-texts': z.strictObject({ ...permit, texts: z.array(textReadSchema).min(1).max(20) }),
  'give-access': z.strictObject({ ...permit, channel: z.enum(channels), address: z.string().trim().min(1).max(254) }),
  'finish-keying': z.strictObject(permit),
  'take-back-keying': z.strictObject(permit),
  'finish-second-keying': z.strictObject(permit),
  'settle-keying': z.strictObject({ ...permit, settlements: z.array(settlementSchema).max(2000) }),
  'ask-correction': z.strictObject(permit),
  'take-back-correction': z.strictObject(permit),
  'accept-correction': z.strictObject(permit),
  'refuse-correction': z.strictObject(permit),
  'take-seat-back': z.strictObject(permit),
  'issue-card': z.strictObject(permit),
  'replace-card': z.strictObject(permit),
  'void-card': z.strictObject(permit),
  'withhold-card': z.strictObject(permit),
  'let-card-go': z.strictObject(permit),
  'release-data': z.strictObject(permit),
  'keep-data': z.strictObject(permit),
} satisfies Partial<Record<ActId, z.ZodType>>

export type NamedAct = keyof typeof actInputs
export const namedActs = actIds.filter((act): act is NamedAct => act in actInputs)
export type ActInput<A extends NamedAct> = z.output<(typeof actInputs)[A]>

/** An act that waits for a second person. */
export interface ProposalView {
  /** Where access is to be given: the address. */ address: string | null /** Of rooms that change, what of which. */
  rooms: { room: string, venue: string, seats: number, stepFree: number, unusable: number, closedIn: number, lost: boolean }[]
  id: string
  act: ProposedAct
  subject: string
  number: string | null
  person: string | null
  reason: string
  by: string
  /** Who may confirm it or take it back: those who may do it themselves. */
  settledBy: Permission
  isOwn: boolean
  at: string
}
