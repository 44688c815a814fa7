import { z } from 'zod'
import { staffRoles, type PrincipalKind, type StaffRole } from '../core/access/principal'
import { keptMonths } from '../core/records/erasure'

const signInName = z.string().trim().regex(
  /^[\p{L}\p{N}][\p{L}\p{N}._-]{0,39}$/u,
  'begins with a letter or digit; letters, digits, dots, hyphens and underscores, 40 at most',
)
const name = z.string().trim().min(1, 'is missing').max(100)

export const staffInputSchema = z.strictObject({
  signInName,
  name,
  roles: z.array(z.enum(staffRoles)).min(1, 'at least one role').max(staffRoles.length),
  venues: z.array(z.string().min(1).max(60)).max(200).default([]),
})
export type StaffInput = z.output<typeof staffInputSchema>

export interface StaffView {
  id: string
  signInName: string
  name: string
  roles: StaffRole[]
  venues: string[]
  active: boolean
  hasPassword: boolean
  hasFactor: boolean
  /** A one-time link waits to be used. */
  hasLink: boolean
  lastSeenAt: string | null
  isOwn: boolean
}

/** A one-time link: its path is shown once and kept nowhere. */
export interface LinkMade {
  id: string
  path: string
  expiresAt: string
}

export const password = z.string().min(1).max(400)
/** What the office says of telephone numbers; see `core/identity/telephone`. */
export const telephonesSchema = z.strictObject({
  country: z.string().regex(/^([A-Z]{2})?$/, 'is the two letters of a country (ISO 3166-1), or nothing'),
  ranges: z.array(z.strictObject({ begins: z.string().regex(/^\d{1,12}$/, 'is digits, twelve at most'), digits: z.int().min(6).max(15) }))
    .max(50),
})

export const officeSettingsSchema = z.strictObject({
  telephones: telephonesSchema,
  /** Months that data of people are kept after a cycle. */
  keepMonths: z.int().min(keptMonths.least).max(keptMonths.most),
  factorRoles: z.array(z.enum(staffRoles)).max(staffRoles.length),
  withoutSecondPerson: z.array(z.string().max(40)).max(60),
})
export type OfficeSettings = z.output<typeof officeSettingsSchema>

export interface FactorOffer {
  secret: string
  /** The `otpauth:` address that authenticators read. */
  address: string
  /** The same as a picture, a data address. */
  picture: string
}
export interface SessionView {
  id: string
  device: string
  createdAt: string
  lastSeenAt: string
  isThis: boolean
}

/** Who is signed in, as the browser knows it. */
export interface SignedInView {
  id: string
  kind: PrincipalKind
  name: string
  roles: StaffRole[]
  venues: string[]
  needsFactor?: true
}
export interface AccountView {
  signInName: string
  name: string
  hasFactor: boolean
  factorRequired: boolean
  recoveryCodesLeft: number
}
