import { z } from 'zod'
import type { Zone } from '../core/calendar/zone'
import type { Headline, Tracks } from '../core/application/tracks'
import type { WayCost } from '../core/fees/channel'
import { channels, type Channel } from '../core/identity/address'
import { password, type SessionView } from './people'

/** What candidates and the office say to each other about accounts, one's own applications, and letters. */
export const codeAskSchema = z.strictObject({
  channel: z.enum(channels),
  address: z.string().trim().min(1).max(254),
  /** What was worked on, where that was asked for. */ work: z.string().max(4000).optional(),
})
export const codeTakeSchema = z.strictObject({ code: z.string().trim().min(1).max(20) })

/** Changes of one's own account. */
export const addAddressSchema = z.strictObject({ codeId: z.uuid(), code: z.string().trim().min(1).max(20) })
export const ownPasswordSchema = z.strictObject({ password })

/** The language in which one reads; a tag as BCP 47 writes it. */
export const ownLanguageSchema = z.strictObject({ language: z.string().max(35).regex(/^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$/) })

/** How one comes in and is reached. `isFresh`: signed in lately enough to change it. */
export interface CandidateAccount {
  contacts: { id: string, channel: Channel, address: string, provedAt: string }[]
  passwordSince: string | null
  sessions: SessionView[]
  isFresh: boolean
}

/** A code is on its way; `again` are the seconds until another may be asked for. */
export interface CodeAsked {
  id: string
  expiresAt: string
  again: number
}

export interface LetterView {
  id: string
  channel: Channel
  subject: string
  body: string
  at: string
  state: 'waiting' | 'delivered' | 'refused'
}
/** A letter as its reader sees it: `isUnread` while it tells something that they have not looked at. */
export interface OwnLetter extends LetterView {
  isUnread: boolean
}
/** A letter as the office sees it: how often it was tried in vain, and until when it waits. */
export interface OutboxLetter extends LetterView {
  address: string
  tries: number
  notBefore: string | null
  /** It is for an account, and can be sent again. */
  isFor: boolean
}
export interface LetterPage {
  rows: OutboxLetter[]
  next: { at: string, id: string } | null
}

export interface OwnApplication {
  id: string
  number: string
  name: string
  cycle: string
  title: string
  headline: Headline
  since: string
  form: Tracks['form']
  /** What is left to pay in minor units; null before the fee is assessed. */
  due: number | null
  /** Who pays it, where that is somebody else by the notice. */
  payer: string | null
  currency: { code: string, exponent: number } | null
  zone: Zone | null
  closes: string | null
  lastPayment: string | null
  hasCard: boolean
}
/** Several of one's own of an examination that can be paid in one payment, with what each way of paying costs; `due` in minor units. */
export interface PaidTogether {
  cycle: string
  title: string
  applications: string[]
  numbers: string[]
  due: number
  currency: { code: string, exponent: number }
  costs: WayCost[]
}

export interface OwnView {
  applications: OwnApplication[]
  together: PaidTogether[]
  examinations: { code: string, title: string, opens: string, closes: string, zone: Zone, isOpen: boolean }[]
  contacts: { channel: Channel, address: string }[]
  letters: OwnLetter[]
  /** The language in which they read notices, where they chose one. */
  readsIn: string | null
}

/** Letters about one application; whoever looks as somebody else names them beside it. */
export const lettersAboutSchema = z.object({ application: z.uuid() })
