import {
  bigint,
  bigserial,
  boolean,
  customType,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core'
import { sql } from 'drizzle-orm'
import type { PairReason } from '../../../core/identity/likely-pair'
import type { Doubt, Lane } from '../../../core/scrutiny/doubts'
import { application, cycle } from './applications'
import { principal } from './people'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })
const words = customType<{ data: string }>({ dataType: () => 'tsvector' })
const transaction = customType<{ data: string }>({ dataType: () => 'xid8' })

/**
 * What the roster finds an application by: narrow rows, so that thousands are looked through in milliseconds. Written by the database
 * itself at the end of each transaction that touched one (see the migration `roster`); services only read it.
 */
export const rosterEntry = pgTable('roster_entry', {
  applicationId: uuid('application_id').primaryKey(),
  cycle: text('cycle').notNull(),
  number: text('number').notNull(),
  headline: text('headline').notNull(),
  /** When the present headline was reached. */
  since: at('since').notNull(),
  nameKey: text('name_key').notNull(),
  mobileKey: text('mobile_key').notNull(),
  words: words('words').notNull(),
  /** Everything that it can be filtered by, as `fee:due`, `q:category=general`, `matter:scrutiny|scrutineer`. */
  tags: text('tags').array().notNull(),
}, t => [
  index('roster_by_number').on(t.cycle, t.number),
  index('roster_by_since').on(t.cycle, t.since, t.applicationId),
  index('roster_by_headline').on(t.cycle, t.headline, t.number),
  index('roster_by_wait').on(t.cycle, t.headline, t.since, t.applicationId),
  index('roster_by_mobile').using('btree', t.cycle, sql`${t.mobileKey} text_pattern_ops`),
  index('roster_by_tags').using('gin', t.tags),
  index('roster_by_words').using('gin', t.words),
])

/** Applications that the present transaction has touched; seen by it alone, and gone when it ends. */
export const rosterTouched = pgTable('roster_touched', {
  transaction: transaction('transaction').notNull(),
  applicationId: uuid('application_id').notNull(),
}, t => [primaryKey({ columns: [t.transaction, t.applicationId] })])

/** The questions whose answers are tags: those that are answered from a list, of the notice in force. */
export const rosterQuestion = pgTable('roster_question', {
  cycle: text('cycle').notNull().references(() => cycle.code),
  question: text('question').notNull(),
}, t => [primaryKey({ columns: [t.cycle, t.question] })])

/** Cycles whose entries must be written anew, and how far that has come. */
export const rosterStale = pgTable('roster_stale', { cycle: text('cycle').primaryKey(), after: text('after').notNull().default('') })

/** How many applications bear a tag. What changed since is in `tally_change`: the sum of both is right at every moment. */
export const tally = pgTable('tally', {
  cycle: text('cycle').notNull(),
  tag: text('tag').notNull(),
  n: bigint('n', { mode: 'number' }).notNull(),
}, t => [primaryKey({ columns: [t.cycle, t.tag] })])

/** Differences of counts, written in the transaction that brings them about: no two transactions wait for one another. */
export const tallyChange = pgTable('tally_change', {
  id: bigserial('id', { mode: 'number' }).primaryKey(),
  cycle: text('cycle').notNull(),
  tag: text('tag').notNull(),
  delta: bigint('delta', { mode: 'number' }).notNull(),
}, t => [index('tally_change_by_tag').on(t.cycle, t.tag)])

/** Words of names, to find those that are spelt alike; `latin` is the word in plain letters, none before it was written down. */
export const nameWord = pgTable('name_word', { word: text('word').primaryKey(), latin: text('latin') }, t => [
  index('name_word_latin').using('gin', sql`${t.latin} gin_trgm_ops`),
  index('name_word_new').on(t.word).where(sql`${t.latin} is null`),
])

/**
 * An application that waits for scrutiny: in which queue, how it is doubted, and who has it in hand. There is a row exactly while it is at
 * that point of the flow.
 */
export const scrutinyCase = pgTable('scrutiny_case', {
  applicationId: uuid('application_id').primaryKey(),
  cycle: text('cycle').notNull(),
  since: at('since').notNull(),
  /** Before when it should be decided, where the notice says so. */
  until: at('until'),
  /** None before the machine has looked at it. */
  lane: text('lane').$type<Lane>(),
  doubts: text('doubts').array().$type<Doubt[]>().notNull(),
  /** Who has proposed a decision that waits for somebody else's look. */
  firstBy: uuid('first_by').references(() => principal.id),
  heldBy: uuid('held_by').references(() => principal.id),
  heldUntil: at('held_until'),
}, t => [
  index('scrutiny_case_in_turn').on(t.cycle, t.lane, t.until, t.since, t.applicationId),
  index('scrutiny_case_in_hand').on(t.heldBy).where(sql`${t.heldBy} is not null`),
  index('scrutiny_case_new').on(t.cycle, t.since).where(sql`${t.lane} is null`),
])

/** What may tell that two applications are of one person, as keys of core's `identityKeys`. */
export const identityKey = pgTable('identity_key', {
  cycle: text('cycle').notNull(),
  key: bigint('key', { mode: 'bigint' }).notNull(),
  applicationId: uuid('application_id').notNull().references(() => application.id, { onDelete: 'cascade' }),
}, t => [primaryKey({ columns: [t.cycle, t.key, t.applicationId] }), index('identity_key_by_application').on(t.applicationId)])

/** `moot`: one side has left the flow. */
export type PairState = 'open' | 'same' | 'different' | 'moot'

/** Two applications that are likely of one person, the smaller id first; each pair is asked about once. */
export const likelyPair = pgTable('likely_pair', {
  id: uuid('id').primaryKey(),
  cycle: text('cycle').notNull(),
  first: uuid('first').notNull().references(() => application.id, { onDelete: 'cascade' }),
  second: uuid('second').notNull().references(() => application.id, { onDelete: 'cascade' }),
  /** From 0 to 100. */
  score: integer('score').notNull(),
  reasons: jsonb('reasons').$type<PairReason[]>().notNull(),
  state: text('state').$type<PairState>().notNull().default('open'),
  foundAt: at('found_at').notNull(),
  reason: text('reason'),
  /** Of the same person: the application that stands. */
  stands: uuid('stands').references(() => application.id),
  by: uuid('by').references(() => principal.id),
  at: at('at'),
}, t => [
  uniqueIndex('likely_pair_one').on(t.first, t.second),
  index('likely_pair_second').on(t.second),
  index('likely_pair_open').on(t.cycle, t.score, t.id).where(sql`${t.state} = 'open'`),
])

/** A question to the roster that somebody keeps under a name, for themselves or for the office. */
export const rosterView = pgTable('roster_view', {
  id: uuid('id').primaryKey(),
  cycle: text('cycle').notNull().references(() => cycle.code),
  title: text('title').notNull(),
  /** As it stands in the page's address. */
  query: text('query').notNull(),
  by: uuid('by').notNull().references(() => principal.id),
  isShared: boolean('is_shared').notNull(),
  at: at('at').notNull(),
}, t => [index('roster_view_by_cycle').on(t.cycle, t.title)])

/** Wordings of reasons that the office keeps, by the item that they are about; none for any item. */
export const keptReason = pgTable('kept_reason', {
  id: uuid('id').primaryKey(),
  cycle: text('cycle').notNull().references(() => cycle.code),
  item: text('item').notNull(),
  reason: text('reason').notNull(),
  uses: integer('uses').notNull().default(0),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
}, t => [uniqueIndex('kept_reason_once').on(t.cycle, t.item, t.reason)])

/** What somebody has compared by eye: an answer held against a file, line by line. */
export const reading = pgTable('reading', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id, { onDelete: 'cascade' }),
  question: text('question').notNull(),
  /** The version of the file, and the answer as it stood. */
  imageId: uuid('image_id').notNull(),
  answer: text('answer').notNull(),
  result: text('result').$type<'agrees' | 'differs' | 'cannot be read'>().notNull(),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
}, t => [index('reading_by_application').on(t.applicationId, t.at)])
