import { bigint, boolean, doublePrecision, index, jsonb, pgTable, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core'
import type { PrincipalKind } from '../../../core/access/principal'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/** Everybody and everything that acts. Rows of all other tables hold the id; the name is looked up when it is shown. */
export const principal = pgTable('principal', {
  id: uuid('id').primaryKey(),
  kind: text('kind').$type<PrincipalKind>().notNull(),
  name: text('name').notNull(),
  createdAt: at('created_at').notNull(),
  /** The language (BCP 47) in which a candidate has read a notice last: what is written to them is in it, as far as the notice has it. */
  readsIn: text('reads_in'),
})

/** The account of a member of staff; its id is that of the principal. */
export const staff = pgTable('staff', {
  id: uuid('id').primaryKey().references(() => principal.id),
  signInName: text('sign_in_name').notNull().unique(),
  /** None before the invitation was answered. */
  passwordHash: text('password_hash'),
  roles: text('roles').array().notNull(),
  /** Venues that a superintendent looks after. */
  venues: text('venues').array().notNull().default([]),
  active: boolean('active').notNull().default(true),
  /** Secret of the second factor (RFC 6238), in base32; none before it is set up. */
  totpSecret: text('totp_secret'),
  /** The last time step whose code was used: no code counts twice. */
  totpLastStep: bigint('totp_last_step', { mode: 'number' }).notNull().default(0),
})

/** A session is known by the SHA-256 of its token: reading the table lets nobody in. */
export const session = pgTable('session', {
  tokenHash: text('token_hash').primaryKey(),
  /** For its owner's list, so that it can be named without the token. */
  id: uuid('id').notNull().unique(),
  principalId: uuid('principal_id').notNull().references(() => principal.id),
  csrfToken: text('csrf_token').notNull(),
  /** Hash of the mark that the browser keeps after a sign-in: what others try does not slow it down. */
  deviceHash: text('device_hash'),
  /** What the browser calls itself. */
  device: text('device').notNull().default(''),
  createdAt: at('created_at').notNull(),
  lastSeenAt: at('last_seen_at').notNull(),
  expiresAt: at('expires_at').notNull(),
  revokedAt: at('revoked_at'),
}, t => [index('session_by_principal').on(t.principalId)])

/** A link that lets one person in once: to answer an invitation or to set a new password. Known by the hash of its token. */
export const oneTimeLink = pgTable('one_time_link', {
  tokenHash: text('token_hash').primaryKey(),
  staffId: uuid('staff_id').notNull().references(() => staff.id),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
  expiresAt: at('expires_at').notNull(),
  usedAt: at('used_at'),
}, t => [index('one_time_link_by_staff').on(t.staffId)])

/** Codes that stand in for a lost second factor; each once. */
export const recoveryCode = pgTable('recovery_code', {
  staffId: uuid('staff_id').notNull().references(() => staff.id),
  codeHash: text('code_hash').notNull(),
  usedAt: at('used_at'),
}, t => [uniqueIndex('recovery_code_key').on(t.staffId, t.codeHash)])

/** What the office has decided for itself, by name. */
export const officeSetting = pgTable('office_setting', {
  name: text('name').primaryKey(),
  value: jsonb('value').notNull(),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
})

/** How often somebody tried something lately, by what is slowed: a name, a network, a device. Tries are forgotten as time goes by. */
export const pace = pgTable('pace', {
  key: text('key').primaryKey(),
  tries: doublePrecision('tries').notNull(),
  at: at('at').notNull(),
})
