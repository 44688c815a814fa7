import {
  bigint,
  boolean,
  doublePrecision,
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
import type { Allocation, SittingPart } from '../../../core/allocation/allocation'
import type { AllocationCity } from '../../../core/allocation/instance'
import type { KeptOfRun, SeatRow } from '../../../core/allocation/kept'
import type { CityLine } from '../../../core/allocation/lines'
import type { Outcome } from '../../../core/allocation/outcome'
import type { AllocationPolicy } from '../../../core/allocation/policy'
import type { Limits } from '../../../core/allocation/restrictions'
import type { RunScope, Saving, SessionSeats } from '../../../shared/centres'
import type { CardContent } from '../../../core/admit-card/content'
import { application, bytea, cycle } from './applications'
import { principal } from './people'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/** The register of centres. Codes last: seats, cards and notices name them. */
export const city = pgTable('city', {
  code: text('code').primaryKey(),
  title: text('title').notNull(),
  island: text('island').notNull(),
  lat: doublePrecision('lat').notNull(),
  lon: doublePrecision('lon').notNull(),
  /** How postal codes of the city begin. */
  postalPrefix: text('postal_prefix').notNull(),
})

export const venue = pgTable('venue', {
  code: text('code').primaryKey(),
  city: text('city').notNull().references(() => city.code),
  title: text('title').notNull(),
  address: text('address').notNull(),
  /** Whom to ask there, and how. */
  contact: text('contact').notNull().default(''),
  /** Place in the order of filling within its city. */
  position: integer('position').notNull(),
}, t => [index('venue_by_city').on(t.city)])

export const room = pgTable('room', {
  code: text('code').primaryKey(),
  venue: text('venue').notNull().references(() => venue.code),
  title: text('title').notNull(),
  position: integer('position').notNull(),
}, t => [index('room_by_venue').on(t.venue)])

/** A room that a cycle uses, with the seats that it has there for one session; another examination may seat people wider apart. */
export const roomBooking = pgTable('room_booking', {
  cycle: text('cycle').notNull().references(() => cycle.code),
  room: text('room').notNull().references(() => room.code),
  seats: integer('seats').notNull(),
  accessibleSeats: integer('accessible_seats').notNull(),
  /** Numbers of seats that nobody can sit on. */
  unusable: integer('unusable').array().notNull().default([]),
  /** Sessions of the cycle in which the room is not free. */
  closedIn: text('closed_in').array().notNull().default([]),
  /** The cycle has lost it: it has no seats any more. */
  lost: boolean('lost').notNull().default(false),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
}, t => [primaryKey({ columns: [t.cycle, t.room] })])

/** One execution of the allocation, with all that went in and came out; never overwritten. */
export const allocationRun = pgTable('allocation_run', {
  id: uuid('id').primaryKey(),
  cycle: text('cycle').notNull().references(() => cycle.code),
  serial: integer('serial').notNull(),
  policy: jsonb('policy').$type<AllocationPolicy>().notNull(),
  scope: text('scope').$type<RunScope>().notNull(),
  note: text('note').notNull(),
  /** Seats a run counts on by city and session, and what of them was free for it, by city. */
  seats: jsonb('seats').$type<SessionSeats[]>().notNull(),
  cities: jsonb('cities').$type<AllocationCity[]>().notNull(),
  /** What the notice closed to whom at the time. */
  restrictions: jsonb('restrictions').$type<Limits[]>().notNull().default([]),
  /** Hash of policy, cities and people as they went in. */
  inputsSha256: text('inputs_sha256').notNull(),
  cost: bigint('cost', { mode: 'number' }).notNull(),
  bound: bigint('bound', { mode: 'number' }).notNull(),
  standing: text('standing').$type<Allocation['standing']>().notNull(),
  summary: jsonb('summary').$type<Outcome>().notNull(),
  lines: jsonb('lines').$type<CityLine[]>().notNull(),
  /**
   * Where people sit test papers, or seats were kept for some: what was free by city and column, what was left for those who sit alike, and
   * what was kept for whom.
   */
  sittings: jsonb('sittings').$type<{ free: SeatRow[], parts: SittingPart[], kept?: KeptOfRun[] }>(),
  /** What more seats would save, as far as it was computed. */
  savings: jsonb('savings').$type<Saving[]>().notNull().default([]),
  /** People told a city before whom the run sends to another. */
  moves: integer('moves').notNull().default(0),
  tookMilliseconds: integer('took_milliseconds').notNull(),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
  publishedAt: at('published_at'),
  publishedBy: uuid('published_by').references(() => principal.id),
}, t => [uniqueIndex('allocation_run_serial').on(t.cycle, t.serial)])

/** One person of a run: what went in, so that the run can be computed again, and what came out. */
export const runPlacement = pgTable('run_placement', {
  runId: uuid('run_id').notNull().references(() => allocationRun.id),
  applicationId: uuid('application_id').notNull().references(() => application.id),
  home: text('home').notNull(),
  choices: text('choices').array().notNull(),
  needs: boolean('needs').notNull(),
  /** Milliseconds of the time stamp that first come goes by. */
  turn: doublePrecision('turn').notNull(),
  told: text('told'),
  locked: boolean('locked').notNull().default(false),
  /** Restrictions of the run that hold for the person: bit i for the one at place i. */
  held: integer('held').notNull().default(0),
  city: text('city'),
  choice: integer('choice'),
  km: integer('km'),
  cost: integer('cost').notNull(),
  /** Number in the order of being served, from 1; none when all were served together. */
  place: integer('place'),
  /** In cycles with test papers: the part of the run's sittings, and of each of its papers the session. */
  part: integer('part'),
  sessions: text('sessions').array(),
}, t => [
  uniqueIndex('run_placement_key').on(t.runId, t.applicationId),
  index('run_placement_by_city').on(t.runId, t.city, t.applicationId),
  index('run_placement_by_choice').on(t.runId, t.choice, t.applicationId),
])

/** People whom an officer has placed by hand: every run leaves them there. */
export const placementLock = pgTable('placement_lock', {
  applicationId: uuid('application_id').primaryKey().references(() => application.id),
  cycle: text('cycle').notNull().references(() => cycle.code),
  city: text('city').notNull(),
  reason: text('reason').notNull(),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
}, t => [index('placement_lock_by_cycle').on(t.cycle)])

/** Seats given out. The keys make a double seat or a double roll number impossible, whatever the code does. */
export const seat = pgTable('seat', {
  applicationId: uuid('application_id').notNull().references(() => application.id),
  /** Somebody who sits several test papers has several seats, counted from 0, in the order of the notice. */
  ordinal: integer('ordinal').notNull().default(0),
  /** The test paper that is sat; empty where a cycle has none. */
  paper: text('paper').notNull().default(''),
  cycle: text('cycle').notNull(),
  runId: uuid('run_id').notNull().references(() => allocationRun.id),
  city: text('city').notNull(),
  venue: text('venue').notNull(),
  room: text('room').notNull(),
  session: text('session').notNull(),
  seat: integer('seat').notNull(),
  accessible: boolean('accessible').notNull(),
  roll: text('roll').notNull(),
}, t => [
  primaryKey({ columns: [t.applicationId, t.ordinal] }),
  uniqueIndex('seat_place').on(t.cycle, t.venue, t.room, t.session, t.seat),
  // All seats of a person bear one roll number: the first stands for them.
  uniqueIndex('seat_roll').on(t.cycle, t.roll).where(sql`${t.ordinal} = 0`),
])

/** Keys that sign cards. Old ones stay so that cards signed with them can be checked. */
export const cardKey = pgTable('card_key', {
  id: text('id').primaryKey(),
  seed: bytea('seed').notNull(),
  publicKey: bytea('public_key').notNull(),
  createdAt: at('created_at').notNull(),
})

/** One version of one person's card, with all that it says: the PDF is made from this row and nothing else. */
export const admitCard = pgTable(
  'admit_card',
  {
    id: uuid('id').primaryKey(),
    applicationId: uuid('application_id').notNull().references(() => application.id),
    version: integer('version').notNull(),
    /** What is printed, frozen when it was issued. */
    content: jsonb('content').$type<CardContent>().notNull(),
    code: text('code').notNull(),
    photographSha256: text('photograph_sha256').notNull(),
    signatureSha256: text('signature_sha256').notNull(),
    by: uuid('by').notNull().references(() => principal.id),
    at: at('at').notNull(),
    /** Since when another version, or none, holds in its place. */
    voidAt: at('void_at'),
  },
  t => [uniqueIndex('admit_card_version').on(t.applicationId, t.version),
    index('admit_card_in_force').on(t.at).where(sql`${t.voidAt} is null`)],
)

/** The last serial given in a city: a roll number that was printed once never names anybody else. */
export const rollSerial = pgTable('roll_serial', {
  cycle: text('cycle').notNull().references(() => cycle.code),
  city: text('city').notNull(),
  last: integer('last').notNull(),
}, t => [uniqueIndex('roll_serial_key').on(t.cycle, t.city)])
