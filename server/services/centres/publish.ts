import { and, asc, eq, inArray, isNotNull, ne, sql } from 'drizzle-orm'
import { assignSeats, keepSeats, openSeats, rollNumber, seatKey, venueSeats } from '../../../core/seating/seats'
import { assignSittings, type Sitter, type Sitting } from '../../../core/seating/sittings'
import type { City } from '../../../core/notice/centre-schema'
import type { Notice } from '../../../core/notice/schema'
import type { SessionSeats } from '../../../shared/centres'
import { grouped } from '../../../shared/grouped'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { allocationRun, application, auditEvent, cycle, rollSerial, runPlacement, seat } from '../../database/schema'
import { periodRefusal } from '../../../core/application/acts/dates'
import { reasonLeast } from '../../../core/application/acts/judge'
import { carryOutOnMany } from '../acts/carry-out'
import type { Given } from '../acts/given'
import { propose, secondPersonWanted, settleProposal } from '../acts/proposals'
import { standingColumns, type ApplicationRow, type StandingRow } from '../applications/store'
import { log, type Caller, type Context } from '../context'
import { nameOf } from '../people/names'
import { currentNotice, type CurrentNotice } from '../notice/notices'
import type { Tell } from './progress'
import { storedRun, type StoredRun } from './runs'
import { seatsAsRecorded, unseat } from './seats'

/** What publishing did, in people. */
export interface Published {
  seated: number
  moved: number
  reseated: number
  leftOut: number
}

/**
 * Publishes a run: gives each of its people a seat and a roll number and lets them move on. All or nothing, and once. Under a run
 * of everyone, people told another city before lose their seat there and get a new one; those whose city stays keep theirs, or get
 * another in the same city where theirs is gone or somebody in need must have it. People who are no longer accepted, or who were
 * seated by another run since, are left out and counted. City by city, so that memory holds the people of one.
 */
export async function publishRun(
  caller: Caller,
  runId: string,
  given: Given = {},
  tell: Tell = () => Promise.resolve(true),
): Promise<Published> {
  const context = await caller.authorise('centres.publish')
  return context.db.transaction(async (tx) => {
    const found = await storedRun(tx, runId)
    // The cycle's row is held: two runs cannot give out seats at the same time.
    await tx.select().from(cycle).where(eq(cycle.code, found.cycle)).for('update')
    const run = await storedRun(tx, runId)
    const { notice, version } = await currentNotice(tx, run.cycle)
    await refuseUnlessPublishable(tx, run, notice)
    const isOutsideDates = outsideDates(notice, context.now(), given)
    if (given.confirmed) await settleProposal(tx, context, given.confirmed.proposal, 'confirmed')
    const before = await unseatMovers(tx, context, run)
    const counts: Published = { seated: 0, moved: before.size, reseated: 0, leftOut: 0 }
    for (const [index, city] of notice.cities.entries()) {
      const { coming, staying, leftOut } = await peopleOfCity(tx, run, city.id, before)
      const reseated = await seatCity(tx, context, { notice, version, city, run, given: { ...given, isOutsideDates } }, coming, staying)
      counts.seated += coming.length
      counts.reseated += reseated
      counts.leftOut += leftOut
      if (!await tell(index + 1, notice.cities.length)) throw refusal('run.publishing-stopped')
    }
    if (counts.seated + counts.reseated === 0) throw refusal('run.nobody-waits', { serial: run.serial })
    await tx.update(allocationRun).set({ publishedAt: context.now(), publishedBy: context.principal.id }).where(eq(allocationRun.id, runId))
    await log(tx, context, 'publish-run', {
      subject: { kind: 'run', id: run.id },
      cycle: run.cycle,
      reason: given.reason,
      outsideDates: isOutsideDates,
      after: { run: run.serial, ...counts, cost: run.cost, bound: run.bound, standing: run.standing, inputsSha256: run.inputsSha256 },
    })
    return counts
  })
}

/** Whether seats are published before the notice says; an officer may, with a reason. */
function outsideDates(notice: Notice, now: Date, given: Given): boolean {
  const early = periodRefusal(notice, 'publication', now)
  if (!early) return false
  if (!given.outsideDates) throw refusal(early.code, early.parameters, { outsideDates: true })
  if ((given.reason?.trim().length ?? 0) < reasonLeast) throw refusal('dates.reason', { least: reasonLeast })
  return true
}

/**
 * Publishes as work of the queue, which may be handed out again after a server died: what this very work has published already is not
 * refused but told once more, from the record.
 */
export async function publishAsWork(caller: Caller, runId: string, given: Given, tell: Tell): Promise<Published> {
  const { db, requestId } = await caller.authorise('centres.publish')
  const [told] = await db.select({ after: auditEvent.after }).from(auditEvent)
    .where(and(eq(auditEvent.act, 'publish-run'), eq(auditEvent.subject, runId), eq(auditEvent.requestId, requestId)))
  if (!told) return publishRun(caller, runId, given, tell)
  const { seated, moved, reseated, leftOut } = told.after as Published
  return { seated, moved, reseated, leftOut }
}

/**
 * The cycle of a run that may be published now, or the proposal that waits for a second person. @throws ProblemError saying why it may not.
 */
export async function publishableCycle(caller: Caller, runId: string, given: Given): Promise<{ cycle: string, proposal: string | null }> {
  const context = await caller.authorise('centres.publish')
  return context.db.transaction(async (tx) => {
    const run = await storedRun(tx, runId)
    const { notice } = await currentNotice(tx, run.cycle)
    await refuseUnlessPublishable(tx, run, notice)
    outsideDates(notice, context.now(), given)
    const isProposed = notice.secondPerson.includes('publish-run') && await secondPersonWanted(tx, context, 'publish-run', run.id, given)
    return { cycle: run.cycle, proposal: isProposed ? await propose(tx, context, 'publish-run', run, given) : null }
  })
}

/** Seats that a run counts on and no room of the notice has, by city and session. */
export function missingSeats(run: { seats: SessionSeats[] }, notice: Notice): SessionSeats[] {
  const real = new Map(venueSeats(notice).map(row => [`${row.city}/${row.session}`, row]))
  return run.seats.flatMap((row) => {
    const have = real.get(`${row.city}/${row.session}`) ?? { seats: 0, accessibleSeats: 0 }
    const missing = {
      ...row,
      seats: Math.max(0, row.seats - have.seats),
      accessibleSeats: Math.max(0, row.accessibleSeats - have.accessibleSeats),
    }
    return missing.seats > 0 || missing.accessibleSeats > 0 ? [missing] : []
  })
}

async function refuseUnlessPublishable(tx: Executor, run: StoredRun, notice: Notice): Promise<void> {
  if (run.publishedAt) throw refusal('run.published', { serial: run.serial, by: await nameOf(tx, run.publishedBy) })
  if (run.standing === 'not certified') throw refusal('run.not-certified', { serial: run.serial, cost: run.cost, bound: run.bound })
  const missing = missingSeats(run, notice)
  const [first] = missing
  if (first) {
    const title = notice.cities.find(c => c.id === first.city)?.title ?? first.city
    throw refusal('run.seats-missing', {
      serial: run.serial,
      seats: first.seats || first.accessibleSeats,
      kind: first.seats ? 'all' : 'accessible',
      city: title,
      session: first.session,
      more: missing.length - 1,
    })
  }
}

/** Somebody who gets a seat in a city, or keeps one there. */
interface Seatee {
  row: StandingRow
  needs: boolean
  told: string | null
  /** In cycles with test papers, with the session of each. */
  papers: string[]
  sessions: string[]
}

const seatable = { waiting: ['accepted'], everyone: ['accepted', 'placed', 'card issued'] }

/** Takes the seats of people whom a run of everyone sends to another city, and tells which city each had. */
async function unseatMovers(tx: Executor, context: Context, run: StoredRun): Promise<Map<string, string>> {
  if (run.scope === 'waiting') return new Map()
  const movers = await tx.select({ id: seat.applicationId, city: seat.city }).from(runPlacement).innerJoin(
    seat,
    and(eq(seat.applicationId, runPlacement.applicationId), eq(seat.ordinal, 0)),
  ).innerJoin(
    application,
    eq(application.id, seat.applicationId),
  ).where(and(
    eq(runPlacement.runId, run.id),
    isNotNull(runPlacement.city),
    ne(runPlacement.city, seat.city),
    inArray(application.headline, seatableHeadlines(run)),
  )).for('update', { of: application })
  await unseat(tx, context, movers.map(m => m.id))
  return new Map(movers.map(m => [m.id, m.city]))
}

const seatableHeadlines = (run: StoredRun) => seatable[run.scope] as ApplicationRow['headline'][]

/** Who of a run gets a seat in a city now, and who keeps one there; `told` is the city of the seat somebody had. */
async function peopleOfCity(
  tx: Executor,
  run: StoredRun,
  city: string,
  before: Map<string, string>,
): Promise<{ coming: Seatee[], staying: Seatee[], leftOut: number }> {
  const placed = await tx.select({
    row: standingColumns,
    needs: runPlacement.needs,
    part: runPlacement.part,
    sessions: runPlacement.sessions,
    seatedIn: seat.city,
  }).from(runPlacement).innerJoin(application, eq(application.id, runPlacement.applicationId)).leftJoin(
    seat,
    and(eq(seat.applicationId, application.id), eq(seat.ordinal, 0)),
  ).where(and(eq(runPlacement.runId, run.id), eq(runPlacement.city, city))).orderBy(asc(application.number)).for('update', {
    of: application,
  })
  const states = seatableHeadlines(run)
  const fitting = placed.filter(p => states.includes(p.row.headline) && (p.seatedIn === null || run.scope === 'everyone'))
  const papersOf = (part: number | null) => part === null ? [] : run.sittings?.parts[part]?.papers ?? []
  const people = fitting.map(({ row, needs, part, sessions, seatedIn }) => ({
    row,
    needs,
    papers: papersOf(part),
    sessions: sessions ?? [],
    told: seatedIn ?? before.get(row.id) ?? null,
    stays: seatedIn === city,
  }))
  return { coming: people.filter(p => !p.stays), staying: people.filter(p => p.stays), leftOut: placed.length - fitting.length }
}

type SeatRow = typeof seat.$inferSelect
interface CityInRun extends CurrentNotice {
  city: City
  run: StoredRun
  given: Given & { isOutsideDates: boolean }
}

/**
 * Gives everybody who comes to a city a seat and a roll number; those who stay and get another seat keep theirs. Tells how many those are.
 */
async function seatCity(tx: Executor, context: Context, at: CityInRun, coming: Seatee[], staying: Seatee[]): Promise<number> {
  if (coming.length === 0 && staying.length === 0) return 0
  const { cycle: code } = at.run
  const given = await tx.select().from(seat).where(and(eq(seat.cycle, code), eq(seat.city, at.city.id)))
  const { leaving, seats } = fitSeats(at, given, coming, staying)
  // Serials go on from the last that was ever given: no doubles, whatever the number of runs and moves.
  const [serial] = await tx.insert(rollSerial).values({ cycle: code, city: at.city.id, last: coming.length }).onConflictDoUpdate({
    target: [rollSerial.cycle, rollSerial.city],
    set: { last: sql`${rollSerial.last} + ${coming.length}` },
  }).returning()
  const before = (serial?.last ?? coming.length) - coming.length
  const rolls = new Map(given.map(s => [s.applicationId, s.roll]))
  await unseat(tx, context, leaving.map(p => p.row.id))
  const all = [...coming.map((p, i) => ({ ...p, roll: rollNumber(at.city.number, before + i + 1) })),
    ...leaving.map(p => ({ ...p, roll: rolls.get(p.row.id) ?? '' }))]
  const rows = all.flatMap(({ row, roll }) => {
    const places = seats.get(row.number) ?? []
    if (places.length === 0) throw refusal('run.no-seat', { number: row.number, city: at.city.title })
    return places.map((place, ordinal) => ({ applicationId: row.id, cycle: code, runId: at.run.id, ...place, ordinal, roll }))
  })
  for (let from = 0; from < rows.length; from += 1000) await tx.insert(seat).values(rows.slice(from, from + 1000))
  const seatOf = new Map([...grouped(rows, row => row.applicationId)].map(([id, own]) => [id, seatsAsRecorded(at.notice, own)]))
  const toldBefore = new Map(all.map(({ row, told }) => [row.id, told]))
  await carryOutOnMany(tx, context, 'publish-seat', at, all.map(({ row }) => row), at.given, row => (
    { before: { placement: row.placement, city: toldBefore.get(row.id) ?? null }, after: seatOf.get(row.id), tell: { city: at.city.title } }
  ))
  return leaving.length
}

/** The seats of those who come, and of those who stay but must leave theirs. */
function fitSeats(
  at: CityInRun,
  given: SeatRow[],
  coming: Seatee[],
  staying: Seatee[],
): { leaving: Seatee[], seats: Map<string, Sitting[]> } {
  const limits = at.run.seats.filter(s => s.city === at.city.id)
  const person = (p: Seatee) => ({ id: p.row.number, needsAccessible: p.needs })
  const people = coming.map(person)
  const once = (seats: ReturnType<typeof assignSeats>) => new Map([...seats].map(([id, seat]) => [id, [{ ...seat, paper: '' }]]))
  try {
    if (at.run.sittings) return fitSittings(at, given, coming, staying)
    if (at.run.scope === 'waiting') {
      return {
        leaving: [],
        seats: once(assignSeats(at.city.id, openSeats(at.city, at.notice.sessions, limits, new Set(given.map(seatKey))), people)),
      }
    }
    const seatOf = new Map(given.map(s => [s.applicationId, s]))
    const seated = staying.flatMap((p) => {
      const own = seatOf.get(p.row.id)
      return own ? [{ ...person(p), seat: own }] : []
    })
    // Somebody may hold a seat here whom the run does not know, or knows without a seat: it is not free.
    const ofStaying = new Set(staying.map(p => p.row.id))
    const others = new Set(given.filter(s => !ofStaying.has(s.applicationId)).map(seatKey))
    const { leaving, free } = keepSeats(openSeats(at.city, at.notice.sessions, limits, others), seated, people)
    const left = new Set(leaving.map(s => s.id))
    return { leaving: staying.filter(p => left.has(p.row.number)), seats: once(assignSeats(at.city.id, free, [...leaving, ...people])) }
  } catch (error) {
    if (!(error instanceof RangeError)) throw error
    throw refusal('run.city-full', { city: at.city.title, count: coming.length })
  }
}

/** The seats of everybody in a city who sits test papers; those who stay and keep every seat are left alone. */
function fitSittings(
  at: CityInRun,
  given: SeatRow[],
  coming: Seatee[],
  staying: Seatee[],
): { leaving: Seatee[], seats: Map<string, Sitting[]> } {
  const ofStaying = new Set(staying.map(p => p.row.id))
  const others = new Set(given.filter(s => !ofStaying.has(s.applicationId)).map(seatKey))
  const open = openSeats(at.city, at.notice.sessions, at.run.seats.filter(s => s.city === at.city.id), others)
  const has = (id: string) => given.filter(s => s.applicationId === id).sort((a, b) => a.ordinal - b.ordinal)
  const sitter = (p: Seatee): Sitter => ({
    id: p.row.number,
    needsAccessible: p.needs,
    papers: p.papers,
    sessions: p.sessions,
    has: ofStaying.has(p.row.id) ? has(p.row.id) : [],
  })
  const seats = assignSittings(at.city.id, open, [...staying, ...coming].map(sitter))
  const isKept = (p: Seatee) =>
    JSON.stringify(has(p.row.id).map(s => [s.paper, seatKey(s)]))
      === JSON.stringify((seats.get(p.row.number) ?? []).map(s => [s.paper, seatKey(s)]))
  return { leaving: staying.filter(p => !isKept(p)), seats }
}
