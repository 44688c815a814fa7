import { sql } from 'drizzle-orm'
import { boolean, index, integer, pgTable, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core'
import type { Channel } from '../../../core/identity/address'
import { principal } from './people'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/** An address that somebody has proved to be theirs. One address belongs to one account. */
export const contact = pgTable('contact', {
  id: uuid('id').primaryKey(),
  principalId: uuid('principal_id').notNull().references(() => principal.id),
  channel: text('channel').$type<Channel>().notNull(),
  /** As `readAddress` gives it. */
  address: text('address').notNull(),
  provedAt: at('proved_at').notNull(),
}, t => [uniqueIndex('contact_address').on(t.channel, t.address), index('contact_by_principal').on(t.principalId)])

/** A candidate's password, where they want one beside the codes. */
export const candidatePassword = pgTable('candidate_password', {
  principalId: uuid('principal_id').primaryKey().references(() => principal.id),
  passwordHash: text('password_hash').notNull(),
  at: at('at').notNull(),
})

/** A code that proves an address once; known by its hash. */
export const oneTimeCode = pgTable('one_time_code', {
  id: uuid('id').primaryKey(),
  channel: text('channel').$type<Channel>().notNull(),
  address: text('address').notNull(),
  codeHash: text('code_hash').notNull(),
  at: at('at').notNull(),
  expiresAt: at('expires_at').notNull(),
  tries: integer('tries').notNull().default(0),
  usedAt: at('used_at'),
}, t => [index('one_time_code_by_address').on(t.channel, t.address, t.at)])

export type LetterState = 'waiting' | 'delivered' | 'refused'

/** What goes out of the house: one row a message and address, whatever it is about. */
export const letter = pgTable(
  'letter',
  {
    id: uuid('id').primaryKey(),
    /** The account that it is for; none for a code that was asked for by somebody unknown. */
    principalId: uuid('principal_id').references(() => principal.id),
    channel: text('channel').$type<Channel>().notNull(),
    address: text('address').notNull(),
    subject: text('subject').notNull(),
    body: text('body').notNull(),
    at: at('at').notNull(),
    state: text('state').$type<LetterState>().notNull().default('waiting'),
    settledAt: at('settled_at'),
    /** How often it was tried in vain, and before when it is not tried: after a try, or in quiet hours. */
    tries: integer('tries').notNull().default(0),
    notBefore: at('not_before'),
    /** One of many that say the same: letters to one go before it. */
    isOfMany: boolean('is_of_many').notNull().default(false),
    /** The messages about applications that it tells. */
    tells: uuid('tells').array().notNull().default([]),
  },
  t => [index('letter_by_time').on(t.at, t.id), index('letter_by_principal').on(t.principalId, t.at),
    index('letter_to_carry').on(t.isOfMany, t.at).where(sql`${t.state} = 'waiting'`),
    index('letter_by_address').using('btree', sql`lower(${t.address}) text_pattern_ops`)],
)
