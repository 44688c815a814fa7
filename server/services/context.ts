import { randomUUID } from 'node:crypto'
import { eq, sql, type SQL } from 'drizzle-orm'
import { relationsOf, type Permission, type Relation } from '../../core/access/permissions'
import { anybody, product, type Principal } from '../../core/access/principal'
import { accessRefusal } from '../../core/application/acts/judge'
import type { LogAct, LogSubject } from '../../core/records/log'
import { english } from '../../core/words/en'
import type { Language } from '../../core/words/language'
import { refusal } from '../../shared/refusal'
import type { Database, Executor } from '../database/client'
import { officeNow } from '../database/clock'
import { asked, keptAbout } from '../database/kept-statements'
import { inserting } from '../database/together'
import { auditEvent, cycle } from '../database/schema'

/**
 * Where time, new ids and the number of the request come from, and the language of whoever asks. `arrived`: when what is asked for reached
 * the office, however long it waited since.
 */
export interface Surroundings {
  now: () => Date
  arrived: () => Date
  newId: () => string
  requestId: string
  language: Language
}

/** What a use case works with once it was authorised: the database, who acts, time and ids. Only `Caller.authorise` makes one. */
export interface Context extends Surroundings {
  readonly db: Database
  readonly principal: Principal
}

/** Whose application it is, and who sent it in. */
export interface Holders {
  application: string
  ownerId: string | null
  institutionId: string | null
}
/** The holders of one application as one value; none where there is no such application. */
export const holdersOf = (id: SQL): SQL =>
  sql`select jsonb_build_object('application', id, 'ownerId', owner_id, 'institutionId', institution_id) from application where id = ${id}`
const holdersStatement = keptAbout(() => sql`select (${holdersOf(asked.id)}) as holders`)

/** What a permission is asked for; nothing where it concerns no single thing. */
export type Subject = { application: string } | { venue: string } | { cycle: string } | null

/**
 * Somebody who asks for something. A caller holds no database that a service could reach: the only way to one is to be authorised,
 * so no service can be written that forgets to ask.
 */
export class Caller implements Surroundings {
  readonly #db: Database
  /** Who holds the applications that were asked for: one request asks for the same one several times. */
  readonly #holders = new Map<string, Holders>()
  readonly now: () => Date
  readonly arrived: () => Date
  readonly newId: () => string
  readonly requestId: string
  readonly language: Language

  constructor(
    db: Database,
    readonly principal: Principal,
    { now = officeNow, arrived = now, newId = randomUUID, requestId = 'none', language = english }: Partial<Surroundings> = {},
  ) {
    this.#db = db
    this.now = now
    this.arrived = arrived
    this.newId = newId
    this.requestId = requestId
    this.language = language
  }

  /** The same request by somebody else, as after signing in. `holders`: of the application that it is about, as they were read just now. */
  as(other: Principal, holders: Holders | null = null): Caller {
    const caller = new Caller(this.#db, other, this)
    if (holders) caller.#holders.set(holders.application, holders)
    return caller
  }

  /**
   * Gives the means to work, if the principal may do this to the subject.
   *
   * @throws ProblemError of the kind `not-signed-in` or `not-allowed`, saying which roles may.
   */
  async authorise(permission: Permission, subject: Subject = null): Promise<Context> {
    const relations = await this.#relations(permission, subject)
    const refused = accessRefusal(this.principal, permission, relations)
    if (refused) throw refusal(refused.code, refused.parameters)
    if (subject !== null && 'cycle' in subject) await refuseUnknown(this.#db, subject.cycle)
    const { now, arrived, newId, requestId, language } = this
    return { db: this.#db, principal: this.principal, now, arrived, newId, requestId, language }
  }

  // Asked of the database only where the answer hangs on it.
  async #relations(permission: Permission, subject: Subject): Promise<Relation[]> {
    const wanted = relationsOf(this.principal, permission)
    if (wanted.includes('any') || wanted.length === 0 || subject === null) return []
    if ('cycle' in subject) return []
    if ('venue' in subject) return this.principal.venues.includes(subject.venue) ? ['own venue'] : []
    const known = this.#holders.get(subject.application)
    if (known) return relationsTo(this.principal, known)
    const { rows: [row] } = await this.#db.execute<{ holders: Holders | null }>(holdersStatement({ id: subject.application }))
    if (row?.holders) this.#holders.set(subject.application, row.holders)
    return relationsTo(this.principal, row?.holders ?? { ownerId: null, institutionId: null })
  }
}

// Asked after the permission: who may not read learns nothing of what there is.
async function refuseUnknown(db: Database, code: string): Promise<void> {
  const [row] = await db.select({ code: cycle.code }).from(cycle).where(eq(cycle.code, code))
  if (!row) throw refusal('cycle.unknown', { cycle: code.slice(0, 20) })
}

/** How a principal stands to an application. */
export function relationsTo(who: Principal, row: Omit<Holders, 'application'>): Relation[] {
  return [...(row.ownerId === who.id ? ['own application' as const] : []),
    ...(row.institutionId === who.id ? ['own institution' as const] : [])]
}

/** The product itself: jobs, the clock, the gateway's messages, the demo's loading. */
export function productCaller(db: Database, requestId = 'product'): Caller {
  return new Caller(db, product, { requestId })
}

/** Somebody who has not signed in, and whose request comes in now: what counts at a close is when it came, not when its turn did. */
export function anonymousCaller(db: Database, requestId: string, language?: Language): Caller {
  const at = officeNow()
  return new Caller(db, anybody, { requestId, language, arrived: () => at })
}

export interface LogEntry {
  subject: LogSubject
  cycle?: string | null
  before?: unknown
  after?: unknown
  reason?: string | null
  outsideDates?: boolean
  /** Of an act on an application: the version of the notice that it was judged under. */
  noticeVersion?: number
}

/** Adds to the log inside the same transaction as the change it tells of. */
export async function log(tx: Executor, context: Context, act: LogAct, entry: LogEntry): Promise<void> {
  await tx.execute(logging(context, [{ act, entry }]))
}

/** What is to be written into the log. */
export interface Logged {
  act: LogAct
  entry: LogEntry
}

/** The same of several, in their order, as one write that is still to be carried out. */
export function logging(context: Context, entries: readonly Logged[]): SQL {
  return inserting(
    auditEvent,
    entries.map(({
      act,
      entry: { subject, cycle = null, before = null, after = null, reason = null, outsideDates = false, noticeVersion = null },
    }) => ({
      at: context.now(),
      actor: context.principal.id,
      act,
      subjectKind: subject.kind,
      subject: subject.id,
      cycle,
      reason,
      outsideDates,
      before,
      after,
      noticeVersion,
      requestId: context.requestId,
    })),
  )
}

/** The same act on many subjects at once. */
export async function logMany(tx: Executor, context: Context, act: LogAct, entries: readonly LogEntry[]): Promise<void> {
  for (let from = 0; from < entries.length; from += 5000) {
    await tx.execute(logging(context, entries.slice(from, from + 5000).map(entry => ({ act, entry }))))
  }
}
