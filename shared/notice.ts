import { z } from 'zod'
import type { Difference } from '../core/notice/difference'
import type { NoticeFinding } from '../core/notice/finding'
import type { City } from '../core/notice/centre-schema'
import { noticeLetterSchema } from '../core/notice/schema'

const moment = z.iso.datetime({ offset: true })

/** A draft to keep: any JSON object that means to be a notice, sound or not; `revision` of the one that it replaces. */
export const draftSchema = z.strictObject({ document: z.record(z.string(), z.unknown()), revision: z.int().min(0).default(0) })
export type DraftInput = z.infer<typeof draftSchema>

/** A notice to open a cycle with; `reason` is the officer's word for its warnings, where it has any. */
export const openingSchema = z.strictObject({ notice: z.unknown(), reason: z.string().trim().min(3).max(1000).optional() })
export type Opening = z.infer<typeof openingSchema>

/** A city of the register; no notice gives it its number there. */
export type RegisteredCity = Omit<City, 'number'>
/** A city of the register for a notice, under the first number above those that are taken. */
export const cityWithNumber = (city: RegisteredCity, taken: readonly { number?: unknown }[]): City => ({
  ...city,
  number: Math.max(0, ...taken.map(({ number }) => typeof number === 'number' ? number : 0)) + 1,
})

/** A notice in work. `isCycle` when its cycle is open already, so that it can only be proposed as an amendment. */
export interface DraftRow {
  id: string
  cycle: string | null
  title: string
  isCycle: boolean
  /** As it was kept. */
  errors: number
  warnings: number
  revision: number
  by: string
  at: string
}
export interface DraftDetail extends DraftRow {
  document: Record<string, unknown>
  /** As the register of centres is now. */
  findings: NoticeFinding[]
  /** Against the notice in force, as far as both can be compared. */
  differences: Difference[]
  /** Cities of the register, with the rooms that the draft's cycle uses. */
  register: RegisteredCity[]
}

/**
 * A version of a notice that held, from when, by whom and why; what it did to fees assessed before it (null for the first), and what it
 * changed.
 */
export interface VersionRow {
  version: number
  from: string
  reason: string | null
  fees: 'anew' | 'kept' | null
  by: string
  changes: Difference[]
}

/** Key dates moved later by one act: only the ends of periods that people wait for. */
export const movedDatesSchema = z.strictObject({
  dates: z.strictObject({ closes: moment, lastPayment: moment, correctionCloses: moment }).partial(),
  reason: z.string().trim().min(3, 'at least 3 characters').max(1000),
})
export type MovedDates = z.infer<typeof movedDatesSchema>

/** A file to read beside the notice; `isLaidOut`: anybody may read it, as it is the newest of its title. */
export interface HandoutView {
  id: string
  title: string
  version: number
  bytes: number
  by: string
  at: string
  isLaidOut: boolean
}
export const handoutTitleSchema = z.object({ title: z.string().trim().min(1).max(140) })

/** The language in which somebody reads a notice. */
export const noticeLanguageSchema = z.object({ in: z.string().max(35).optional() })

/** A letter in the office's own words, tried on the person with an application number. */
export const letterTrialSchema = z.strictObject({ letter: noticeLetterSchema, number: z.string().trim().min(1).max(60) })
export type LetterTrial = z.infer<typeof letterTrialSchema>
/**
 * How it reads as mail and on a telephone, and how many short messages it takes there; `isTold`: the person was told of this before, and
 * amounts and reasons are of then.
 */
export interface LetterTried {
  subject: string
  body: string
  toTelephone: string
  alphabet: 'GSM-7' | 'UCS-2'
  units: number
  messages: number
  isTold: boolean
}
