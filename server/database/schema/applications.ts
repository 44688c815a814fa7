import {
  check,
  customType,
  foreignKey,
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
import type { Answer, Answers } from '../../../core/application/answers'
import type { Endorsed } from '../../../core/application/endorsements'
import type { RequestDecisions } from '../../../core/application/requests'
import type { Headline, Tracks } from '../../../core/application/tracks'
import type { KeyedDifference, KeyingState, Settlement } from '../../../core/application/keying'
import type { CorrectionCharge, Relief } from '../../../core/fees/assess'
import type { ChannelCharge } from '../../../core/fees/channel'
import type { Finding } from '../../../core/finding/finding'
import type { Edit } from '../../../core/imaging/fit'
import type { Mark } from '../../../core/imaging/image-finding'
import { principal } from './people'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })
// The plain jsonb column takes a text such as "412" for JSON once more when it is read, and makes a number of it.
const answerJson = customType<{ data: Answer, driverData: string }>({ dataType: () => 'jsonb', toDriver: value => JSON.stringify(value) })
export const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' })

/** What an amendment does to fees that were assessed before it. */
export type FeesOfThoseIn = 'anew' | 'kept'

/** One examination cycle and the notice in force. */
export const cycle = pgTable('cycle', {
  code: text('code').primaryKey(),
  noticeVersion: integer('notice_version').notNull(),
  /** Grows with each change of what the register of centres says of the cycle's cities. */
  centresRevision: integer('centres_revision').notNull().default(0),
  lastSerial: integer('last_serial').notNull().default(0),
  /** Since when its people's data are being erased, or are: nobody is taken in any more. */
  erasingSince: at('erasing_since'),
})

/** Every version of a notice ever in force or proposed, as it was written; never changed after. Reading brings it to the present format. */
export const noticeVersion = pgTable('notice_version', {
  cycle: text('cycle').notNull().references(() => cycle.code),
  version: integer('version').notNull(),
  document: jsonb('document').$type<unknown>().notNull(),
  sha256: text('sha256').notNull(),
  createdAt: at('created_at').notNull(),
}, t => [uniqueIndex('notice_version_key').on(t.cycle, t.version)])

/** Which version of a notice held from when, by whose act and why; rows are only ever added. */
export const noticeInForce = pgTable('notice_in_force', {
  cycle: text('cycle').notNull(),
  version: integer('version').notNull(),
  from: at('from_moment').notNull(),
  /** Whether fees of those who were in already are assessed anew by it, or stay as its forerunner had them. */
  fees: text('fees').$type<FeesOfThoseIn>().notNull(),
  reason: text('reason'),
  by: uuid('by').notNull().references(() => principal.id),
}, t => [
  primaryKey({ columns: [t.cycle, t.version] }),
  foreignKey({ columns: [t.cycle, t.version], foreignColumns: [noticeVersion.cycle, noticeVersion.version] }),
])

/**
 * A file that anybody may read beside the notice: a brochure, a syllabus. Each version of it stays; the newest of a title is the one that
 * is laid out.
 */
export const handout = pgTable('handout', {
  id: uuid('id').primaryKey(),
  cycle: text('cycle').notNull().references(() => cycle.code),
  title: text('title').notNull(),
  version: integer('version').notNull(),
  sha256: text('sha256').notNull(),
  bytes: integer('bytes').notNull(),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
  takenOutBy: uuid('taken_out_by').references(() => principal.id),
  takenOutAt: at('taken_out_at'),
}, t => [uniqueIndex('handout_version').on(t.cycle, t.title, t.version)])

/** A notice in work, sound or not, with the number of errors and warnings that it had when it was kept. */
export const noticeDraft = pgTable('notice_draft', {
  id: uuid('id').primaryKey(),
  /** The code of the cycle that it means to be of; none yet where it names none. */
  cycle: text('cycle'),
  title: text('title').notNull(),
  document: jsonb('document').$type<Record<string, unknown>>().notNull(),
  errors: integer('errors').notNull(),
  warnings: integer('warnings').notNull(),
  /** Grows by one each time it is kept; who keeps it against an older one is told. */
  revision: integer('revision').notNull(),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
}, t => [index('notice_draft_by_time').on(t.at)])

export const application = pgTable('application', {
  id: uuid('id').primaryKey(),
  cycle: text('cycle').notNull().references(() => cycle.code),
  number: text('number').notNull().unique(),
  answers: jsonb('answers').$type<Answers>().notNull(),
  /** Claims that scrutiny found false; the answers that count fall back as the notice says. */
  falseClaims: jsonb('false_claims').$type<string[]>().notNull().default([]),
  /** Grows by one with each saved change of the sheet; a save against an older one is shown the difference. */
  revision: integer('revision').notNull().default(0),
  form: text('form').$type<Tracks['form']>().notNull(),
  fee: text('fee').$type<Tracks['fee']>().notNull(),
  scrutiny: text('scrutiny').$type<Tracks['scrutiny']>().notNull(),
  placement: text('placement').$type<Tracks['placement']>().notNull(),
  card: text('card').$type<Tracks['card']>().notNull(),
  /** Derived from the tracks by core's `headline`, written only together with them. */
  headline: text('headline').$type<Headline>().notNull(),
  /** Derived for search: name key, and digits of the mobile number. */
  nameKey: text('name_key').notNull().default(''),
  mobileKey: text('mobile_key').notNull().default(''),
  displayName: text('display_name').notNull().default(''),
  /** Whose application it is, and the institution that sent it, where there is one. */
  ownerId: uuid('owner_id').references(() => principal.id),
  institutionId: uuid('institution_id').references(() => principal.id),
  /** Until when it is kept open longer than the notice says: for a correction, or by an officer. */
  openUntil: at('open_until'),
  /** The questions and slots that a correction may change; none while the whole form is open. */
  openedItems: jsonb('opened_items').$type<string[] | null>(),
  /** When it was returned or opened for correction: what changed since is the correction. */
  openedAt: at('opened_at'),
  /** Of one that was accepted where a person may have one only: the number of their paper, as it is compared. */
  personKey: text('person_key'),
  /** What corrections that took effect cost, in their order. */
  correctionCharges: jsonb('correction_charges').$type<CorrectionCharge[]>().notNull().default([]),
  /** What was paid for the way of paying, order by order. */
  channelCharges: jsonb('channel_charges').$type<ChannelCharge[]>().notNull().default([]),
  /** Dues that the office has given up, in their order. */
  feeReliefs: jsonb('fee_reliefs').$type<Relief[]>().notNull().default([]),
  /** Where the fee is paid before the form is handed in: when it was asked for last before it was paid. */
  feeMoment: at('fee_moment'),
  /** The office's newest word on each of its requests. */
  requests: jsonb('requests').$type<RequestDecisions>().notNull().default({}),
  /** How many others were asked for something, and have said what. */
  endorsed: jsonb('endorsed').$type<Endorsed>().notNull().default({}),
  /** Of each text of the notice that was accepted, the SHA-256 of its newest wording that was. */
  accepted: jsonb('accepted').$type<Record<string, string>>().notNull().default({}),
  /** Of a paper form: when it came in, and how far its keying by two people is. */
  receivedAt: at('received_at'),
  keying: text('keying').$type<KeyingState>(),
  /** Since when what it tells of a person is released for erasing, before its cycle's time. */
  erasingSince: at('erasing_since'),
  /** When what it tells of a person was erased: it is only counted since. */
  erasedAt: at('erased_at'),
  /** Why its card is withheld by hand. */
  cardHold: text('card_hold'),
  /** When the present headline was reached: the age of a case in its queue. */
  headlineSince: at('headline_since').notNull(),
  createdAt: at('created_at').notNull(),
  submittedAt: at('submitted_at'),
  updatedAt: at('updated_at').notNull(),
}, t => [
  // What the office decides twice at once is still decided for one application only.
  uniqueIndex('application_one_person').on(t.cycle, t.personKey)
    .where(sql`${t.personKey} is not null and ${t.scrutiny} = 'accepted' and ${t.form} in ('submitted', 'correcting')`),
  index('application_by_owner').on(t.ownerId, t.createdAt).where(sql`${t.ownerId} is not null`),
  index('application_by_headline').on(t.cycle, t.headline, t.number),
  index('application_by_fee').on(t.cycle, t.fee, t.number),
  index('application_by_cycle').on(t.cycle, t.number),
  index('application_erasing').on(t.cycle, t.erasingSince).where(sql`${t.erasingSince} is not null`),
  index('application_by_keying').on(t.cycle, t.keying, t.receivedAt, t.id).where(sql`${t.keying} is not null`),
  // Words of names in any order, from their beginnings on.
  index('application_by_words').using('gin', sql`to_tsvector('simple', ${t.nameKey})`),
  // text_pattern_ops lets a prefix search use the index whatever the collation.
  index('application_by_name').using('btree', t.cycle, sql`${t.nameKey} text_pattern_ops`),
])

/**
 * A paper form that two people key: what the second has keyed, and how both became one. What the first has keyed stands in the application.
 */
export const paperForm = pgTable('paper_form', {
  applicationId: uuid('application_id').primaryKey().references(() => application.id),
  /** The office's own mark on the paper. */
  reference: text('reference').notNull(),
  firstBy: uuid('first_by').references(() => principal.id),
  firstAt: at('first_at'),
  second: jsonb('second').$type<Answers>().notNull().default({}),
  secondBy: uuid('second_by').references(() => principal.id),
  /** What others had keyed of it a second time before somebody took it over; it counts for nothing. */
  earlier: jsonb('earlier').$type<{ by: string, at: string, answers: Answers }[]>().notNull().default([]),
  /** When somebody last worked on the second keying, and when it was done. */
  secondSeen: at('second_seen'),
  secondAt: at('second_at'),
  /** How many answers and cells were compared, and where they differed. */
  compared: integer('compared'),
  differing: jsonb('differing').$type<KeyedDifference[]>(),
  settled: jsonb('settled').$type<Settlement[]>(),
  settledBy: uuid('settled_by').references(() => principal.id),
  settledAt: at('settled_at'),
})

/** Each saved value of each question, so that a conflict can say who changed what. */
export const answerChange = pgTable('answer_change', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id),
  revision: integer('revision').notNull(),
  question: text('question').notNull(),
  before: answerJson('before'),
  after: answerJson('after'),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
}, t => [index('answer_change_by_application').on(t.applicationId, t.revision)])

/** Movements between points of the flow, for the band's counts of the day. */
export const headlineChange = pgTable('headline_change', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id),
  cycle: text('cycle').notNull(),
  from: text('from_headline').$type<Headline>(),
  to: text('to_headline').$type<Headline>().notNull(),
  at: at('at').notNull(),
}, t => [index('headline_change_by_time').on(t.cycle, t.at)])

/** Files by the hash of their bytes: the same file twice is stored once. The bytes stand here, or in a store of objects. */
export const file = pgTable('file', {
  sha256: text('sha256').primaryKey(),
  bytes: integer('bytes').notNull(),
  home: text('home').$type<'database' | 'objects'>().notNull().default('database'),
  content: bytea('content'),
}, t => [check('file_home', sql`(${t.home} = 'database') = (${t.content} is not null)`)])

/**
 * One version of one image or document of an application, `kind` being the id of its slot; versions count from 1 and none is ever removed.
 */
export const image = pgTable(
  'image',
  {
    id: uuid('id').primaryKey(),
    applicationId: uuid('application_id').notNull().references(() => application.id),
    kind: text('kind').notNull(),
    version: integer('version').notNull(),
    sha256: text('sha256').notNull().references(() => file.sha256),
    /** Kept and not yet measured, measured, or found to be no picture: a refused one never counts. */
    state: text('state').$type<'waiting' | 'measured' | 'refused'>().notNull().default('measured'),
    /** Looks begun, so that a picture that ends a process is not looked at for ever. */
    attempts: integer('attempts').notNull().default(0),
    /** Of an image: upright, without metadata, for screens and cards; none before it is measured. */
    displaySha256: text('display_sha256').references(() => file.sha256),
    /** Of a document: such copies of all its pages, in their order. */
    pages: jsonb('pages').$type<{ sha256: string, width: number, height: number }[]>().notNull().default([]),
    /** The files as they were chosen, by their hashes, where the person had one made of them, and what was done to them. */
    originals: jsonb('originals').$type<string[]>().notNull().default([]),
    edits: jsonb('edits').$type<Edit[]>().notNull().default([]),
    format: text('format').notNull(),
    width: integer('width').notNull(),
    height: integer('height').notNull(),
    findings: jsonb('findings').$type<Finding[]>().notNull(),
    /** Where on the picture the findings were measured. */
    marks: jsonb('marks').$type<Mark[]>().notNull().default([]),
    /** Put forward by a correction that has not taken effect: it counts for nothing else. */
    correctionId: uuid('correction_id'),
    by: uuid('by').notNull().references(() => principal.id),
    at: at('at').notNull(),
  },
  t => [uniqueIndex('image_version').on(t.applicationId, t.kind, t.version), index('image_by_file').on(t.sha256),
    index('image_by_copy').on(t.displaySha256), index('image_waiting').on(t.at).where(sql`${t.state} = 'waiting'`),
    index('image_by_correction').on(t.correctionId).where(sql`${t.correctionId} is not null`)],
)

const bits = (count: number) => customType<{ data: string }>({ dataType: () => `bit(${count})` })

/** By what one picture is found again among all of a cycle: its very pixels, and what they show. */
export const imageLikeness = pgTable('image_likeness', {
  // A picture that is erased leaves no hash behind.
  imageId: uuid('image_id').primaryKey().references(() => image.id, { onDelete: 'cascade' }),
  cycle: text('cycle').notNull(),
  kind: text('kind').notNull(),
  pixelsSha256: text('pixels_sha256').notNull(),
  hash: bits(256)('hash').notNull(),
  /** Core's `bandKeys` of the hash: pictures that are alike share one at least. */
  keys: integer('keys').array().notNull(),
}, t => [index('image_likeness_pixels').on(t.cycle, t.kind, t.pixelsSha256), index('image_likeness_keys').using('gin', t.keys)])

/** Signs of the faces of a cycle whose notice has them compared. */
export const faceLikeness = pgTable('face_likeness', {
  // A picture that is erased leaves nothing of the face behind.
  imageId: uuid('image_id').primaryKey().references(() => image.id, { onDelete: 'cascade' }),
  cycle: text('cycle').notNull(),
  signs: bits(576)('signs').notNull(),
  /** Core's `faceKeys` of the signs. */
  keys: integer('keys').array().notNull(),
}, t => [index('face_likeness_keys').using('gin', t.keys)])
