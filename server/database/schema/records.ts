import {
  bigint,
  bigserial,
  boolean,
  customType,
  index,
  integer,
  jsonb,
  pgEnum,
  pgTable,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core'
import { sql } from 'drizzle-orm'
import type { ActId } from '../../../core/application/acts/rule'
import type { ProposedAct } from '../../../core/application/acts/table'
import type { MatterHold, MatterKind, MatterOwner } from '../../../core/application/open-matters'
import { logActs, type LogSubject } from '../../../core/records/log'
import type { ItemReason } from '../../../shared/scrutiny'
import { application, cycle } from './applications'
import { principal } from './people'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' })

export const logAct = pgEnum('log_act', logActs)

/** Who did what to what, with the state before and after. Rows are only ever added. */
export const auditEvent = pgTable('audit_event', {
  id: bigserial('id', { mode: 'number' }).primaryKey(),
  at: at('at').notNull(),
  actor: uuid('actor').notNull().references(() => principal.id),
  act: logAct('act').notNull(),
  subjectKind: text('subject_kind').$type<LogSubject['kind']>().notNull(),
  subject: text('subject').notNull(),
  /** The cycle that it belongs to, where it belongs to one. */
  cycle: text('cycle'),
  reason: text('reason'),
  /** An officer acted outside the dates of the notice; the reason says why. */
  outsideDates: boolean('outside_dates').notNull().default(false),
  before: jsonb('before'),
  after: jsonb('after'),
  /** Of an act on an application: the version of the notice that it was judged under. */
  noticeVersion: integer('notice_version'),
  requestId: text('request_id').notNull(),
  /**
   * Goes into the sealed hash of what the row tells of people: without it nobody can guess them from the hash. It goes with what it salted
   * when that is erased.
   */
  salt: uuid('salt').defaultRandom(),
}, t => [
  index('audit_event_by_subject').on(t.subject, t.id),
  index('audit_event_outside_dates').on(t.cycle, t.id).where(sql`${t.outsideDates}`),
])

/** The rows of the log in the order in which they were sealed: leaves of one Merkle tree. */
export const auditLeaf = pgTable('audit_leaf', {
  /** Place in the tree, from 0. */
  place: bigint('place', { mode: 'number' }).primaryKey(),
  eventId: bigint('event_id', { mode: 'number' }).notNull().unique(),
  /** Salted hash of what may be erased one day. */
  commitment: bytea('commitment').notNull(),
  leaf: bytea('leaf').notNull(),
})

/** Signed heads of the tree, one a minute at most while something happens. */
export const auditHead = pgTable('audit_head', {
  size: bigint('size', { mode: 'number' }).primaryKey(),
  root: bytea('root').notNull(),
  /** Roots of the full subtrees, in hex: the next rows are added to them. */
  peaks: jsonb('peaks').$type<string[]>().notNull(),
  at: at('at').notNull(),
  key: text('key').notNull(),
  signature: bytea('signature').notNull(),
  /** Rows up to this number are all sealed: none of them can come any more. */
  floor: bigint('floor', { mode: 'number' }).notNull(),
  /** The highest row so far, and the transaction before which all had begun: once those are over, no row below can come any more. */
  lastEvent: bigint('last_event', { mode: 'number' }).notNull(),
  horizon: bigint('horizon', { mode: 'number' }).notNull(),
})

export const scrutinyDecision = pgTable('scrutiny_decision', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id),
  /** That of the application: the newest decisions of one cycle are found without those of all later ones. */
  cycle: text('cycle').notNull(),
  decision: text('decision').$type<'accept' | 'return' | 'refuse'>().notNull(),
  reasons: jsonb('reasons').$type<ItemReason[]>().notNull(),
  /** Of a return: the moment before which it must be answered. */
  answerUntil: at('answer_until'),
  /**
   * The slots whose files were decided on: those that the answers asked for then. Decisions from before documents have none, and were on
   * all.
   */
  slots: jsonb('slots').$type<string[]>(),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
}, t => [index('scrutiny_decision_by_application').on(t.applicationId, t.at), index('scrutiny_decision_by_time').on(t.cycle, t.at)])

/** Something that keeps an application from moving on, from when it opened until it cleared. */
export const openMatter = pgTable('open_matter', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id, { onDelete: 'cascade' }),
  cycle: text('cycle').notNull(),
  kind: text('kind').$type<MatterKind>().notNull(),
  /** The question, slot or other thing it is about; empty where it is about the whole. */
  about: text('about').notNull(),
  owner: text('owner').$type<MatterOwner>().notNull(),
  holds: text('holds').$type<MatterHold>().notNull(),
  parameters: jsonb('parameters').$type<Record<string, string | number>>().notNull(),
  since: at('since').notNull(),
  until: at('until'),
  clearedAt: at('cleared_at'),
  clearedBy: uuid('cleared_by').references(() => principal.id),
}, t => [
  uniqueIndex('open_matter_one').on(t.applicationId, t.kind, t.about).where(sql`${t.clearedAt} is null`),
  index('open_matter_by_last_day').on(t.cycle, t.kind, t.until, t.id).where(sql`${t.clearedAt} is null`),
])

/** A letter that went to everybody who matched a question to the roster. */
export const announcement = pgTable('announcement', {
  id: uuid('id').primaryKey(),
  cycle: text('cycle').notNull(),
  subject: text('subject').notNull(),
  text: text('text').notNull(),
  /** Whom it was for, as the roster was asked. */
  filter: jsonb('filter').$type<unknown>().notNull(),
  by: uuid('by').notNull(),
  at: at('at').notNull(),
  /** Applications that were written to, and those whose people have proved no address; counted once all are written down. */
  reached: integer('reached').notNull().default(0),
  without: integer('without').notNull().default(0),
  isWhole: boolean('is_whole').notNull().default(false),
}, t => [index('announcement_by_cycle').on(t.cycle, t.at)])

/** A message that an act owes to somebody; templates and sending come from elsewhere. */
export const message = pgTable('message', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id, { onDelete: 'cascade' }),
  cycle: text('cycle').notNull(),
  kind: text('kind').$type<ActId | 'announce'>().notNull(),
  parameters: jsonb('parameters').$type<Record<string, string | number>>().notNull(),
  at: at('at').notNull(),
  sentAt: at('sent_at'),
  /** Somebody else did what it tells, and its reader has not looked since; what was told before this was noted counts as looked at. */
  unseen: boolean('unseen').notNull().default(false),
  seenAt: at('seen_at'),
  /** What was written to many, where it is that. */
  announcementId: uuid('announcement_id').references(() => announcement.id),
}, t => [
  uniqueIndex('message_announced').on(t.announcementId, t.applicationId).where(sql`${t.announcementId} is not null`),
  index('message_by_application').on(t.applicationId, t.at),
  // What is owed to one goes before what was written to many.
  index('message_to_send').on(sql`(${t.announcementId} is not null)`, t.at).where(sql`${t.sentAt} is null`),
])

export type ProposalState = 'waiting' | 'confirmed' | 'withdrawn'

/** A cycle whose people's data are to be erased: released by two, carried out by a command that works as a role of its own. */
export const erasure = pgTable('erasure', {
  cycle: text('cycle').primaryKey().references(() => cycle.code),
  reason: text('reason').notNull(),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
  doneAt: at('done_at'),
  /** What was erased. */
  applications: integer('applications').notNull().default(0),
  files: integer('files').notNull().default(0),
  accounts: integer('accounts').notNull().default(0),
})

/** An act that somebody began and a second person has to confirm. */
export const proposal = pgTable(
  'proposal',
  {
    id: uuid('id').primaryKey(),
    cycle: text('cycle').notNull(),
    act: text('act').$type<ProposedAct>().notNull(),
    /** The application or the run; of rooms that change, and of a cycle that is erased, an id of its own. */
    subject: uuid('subject').notNull(),
    reason: text('reason').notNull(),
    outsideDates: boolean('outside_dates').notNull().default(false),
    /** What it was asked with. */
    input: jsonb('input').$type<Record<string, unknown>>().notNull(),
    state: text('state').$type<ProposalState>().notNull().default('waiting'),
    by: uuid('by').notNull().references(() => principal.id),
    at: at('at').notNull(),
    settledBy: uuid('settled_by').references(() => principal.id),
    settledAt: at('settled_at'),
  },
  t => [uniqueIndex('proposal_one').on(t.act, t.subject).where(sql`${t.state} = 'waiting'`),
    index('proposal_by_cycle').on(t.cycle, t.state, t.at)],
)

export type JobState = 'waiting' | 'running' | 'done' | 'failed' | 'cancelled'

/** Long work as people see it, and all that a process needs to take it up: how far it is, and how it ended. */
export const job = pgTable('job', {
  id: uuid('id').primaryKey(),
  kind: text('kind').$type<string>().notNull(),
  /** What was asked for, as text: other work of the kind under way is told from the same work pressed twice. */
  request: text('request').notNull().default(''),
  cycle: text('cycle').notNull(),
  state: text('state').$type<JobState>().notNull(),
  done: integer('done').notNull().default(0),
  total: integer('total').notNull().default(0),
  result: jsonb('result').$type<Record<string, string | number> | null>(),
  /** Why it failed, as a refusal's code and parameters. */
  error: jsonb('error').$type<{ code: string, parameters: Record<string, string | number>, message: string } | null>(),
  by: uuid('by').notNull().references(() => principal.id),
  createdAt: at('created_at').notNull(),
  updatedAt: at('updated_at').notNull(),
}, t => [index('job_by_time').on(t.cycle, t.createdAt), index('job_live').on(t.updatedAt).where(sql`${t.state} in ('waiting', 'running')`)])

/** Steps that brought older data to the present shape and that SQL alone could not take; each runs once. */
export const dataUpgrade = pgTable('data_upgrade', { name: text('name').primaryKey(), at: at('at').notNull() })
