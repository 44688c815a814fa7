import { and, asc, eq, inArray, isNotNull, isNull, ne, sql } from 'drizzle-orm'
import { assignSeats, keepSeats, openSeats, rollNumber, seatKey, venueSeats, type Seat } from '../../../core/seating/seats'
import type { City, Notice } from '../../../core/notice/schema'
import type { SessionSeats } from '../../../shared/centres'
import { ProblemError } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { admitCard, allocationRun, application, auditEvent, cycle, rollSerial, runPlacement, seat } from '../../database/schema'
import { saveTracksOfMany, standingColumns, type ApplicationRow, type StandingRow } from '../applications/store'
import { audit, auditMany, demand, type Context } from '../context'
import { currentNotice } from '../notice/notices'
import type { Tell } from './progress'
import { storedRun, type StoredRun } from './runs'

/** What publishing did, in people. */
export interface Published { seated: number, moved: number, reseated: number, leftOut: number }

/**
 * Publishes a run: gives each of its people a seat and a roll number and lets them move on. All or nothing, and once. Under a run
 * of everyone, people told another city before lose their seat there and get a new one; those whose city stays keep theirs, or get
 * another in the same city where theirs is gone or somebody in need must have it. People who are no longer accepted, or who were
 * seated by another run since, are left out and counted. City by city, so that memory holds the people of one.
 */
export async function publishRun(context: Context, runId: string, tell: Tell = () => Promise.resolve(true)): Promise<Published> {
  const actor = demand(context, 'centres.publish')
  return context.db.transaction(async (tx) => {
    const found = await storedRun(tx, runId)
    // The cycle's row is held: two runs cannot give out seats at the same time.
    await tx.select().from(cycle).where(eq(cycle.code, found.cycle)).for('update')
    const run = await storedRun(tx, runId)
    const { notice } = await currentNotice(tx, run.cycle)
    refuseUnlessPublishable(run, notice)
    const before = await unseatMovers(tx, context, run)
    const counts: Published = { seated: 0, moved: before.size, reseated: 0, leftOut: 0 }
    for (const [index, city] of notice.cities.entries()) {
      const { coming, staying, leftOut } = await peopleOfCity(tx, run, city.id, before)
      const reseated = await seatCity(tx, context, { notice, city, index, run }, coming, staying)
      await saveTracksOfMany(tx, context, coming.filter(p => p.told === null).map(p => p.row), { placement: 'published' })
      await saveTracksOfMany(tx, context, [...coming.filter(p => p.told !== null), ...reseated].map(p => p.row), { placement: 'moved', card: 'not issued' })
      counts.seated += coming.length
      counts.reseated += reseated.length
      counts.leftOut += leftOut
      if (!await tell(index + 1, notice.cities.length)) throw new ProblemError('not-now', 'Publishing was stopped. Nobody was told anything; nothing was changed.')
    }
    if (counts.seated + counts.reseated === 0) throw new ProblemError('not-now', `Nobody of run ${run.serial} still waits for a seat. Start a new run.`)
    await tx.update(allocationRun).set({ publishedAt: context.now(), publishedBy: actor.name }).where(eq(allocationRun.id, runId))
    await audit(tx, context, 'publish run', `run:${run.cycle}/${run.serial}`, null, { ...counts, cost: run.cost, bound: run.bound, standing: run.standing, inputsSha256: run.inputsSha256 })
    return counts
  })
}

/**
 * Publishes as work of the queue, which may be handed out again after a server died: what was published since the work was asked
 * for, by the same person, is not refused but told once more, from the record.
 */
export async function publishAsWork(context: Context, runId: string, askedAt: Date, tell: Tell): Promise<Published> {
  const run = await storedRun(context.db, runId)
  if (!run.publishedAt || run.publishedAt < askedAt || run.publishedBy !== context.actor?.name) return publishRun(context, runId, tell)
  const [told] = await context.db.select({ after: auditEvent.after }).from(auditEvent)
    .where(and(eq(auditEvent.action, 'publish run'), eq(auditEvent.subject, `run:${run.cycle}/${run.serial}`)))
  const { seated, moved, reseated, leftOut } = told?.after as Published
  return { seated, moved, reseated, leftOut }
}

/** The cycle of a run that may be published now. @throws ProblemError saying why it may not. */
export async function publishableCycle(context: Context, runId: string): Promise<string> {
  demand(context, 'centres.publish')
  const run = await storedRun(context.db, runId)
  refuseUnlessPublishable(run, (await currentNotice(context.db, run.cycle)).notice)
  return run.cycle
}

/** Seats that a run counts on and no room of the notice has, by city and session. */
export function missingSeats(run: { seats: SessionSeats[] }, notice: Notice): SessionSeats[] {
  const real = new Map(venueSeats(notice).map(row => [`${row.city}/${row.session}`, row]))
  return run.seats.flatMap((row) => {
    const have = real.get(`${row.city}/${row.session}`) ?? { seats: 0, accessibleSeats: 0 }
    const missing = { ...row, seats: Math.max(0, row.seats - have.seats), accessibleSeats: Math.max(0, row.accessibleSeats - have.accessibleSeats) }
    return missing.seats > 0 || missing.accessibleSeats > 0 ? [missing] : []
  })
}

function refuseUnlessPublishable(run: StoredRun, notice: Notice): void {
  if (run.publishedAt) throw new ProblemError('conflict', `Run ${run.serial} was published by ${run.publishedBy ?? 'somebody'}. Nothing was changed.`)
  if (run.standing === 'not certified') {
    throw new ProblemError('not-now', `Run ${run.serial} is not certified: its cost is ${run.cost}, its bound ${run.bound}. Only a run proven to be the best, or by its policy's order, can be published.`)
  }
  const missing = missingSeats(run, notice)
  const [first] = missing
  if (first) {
    const title = notice.cities.find(c => c.id === first.city)?.title ?? first.city
    throw new ProblemError('not-now', `Run ${run.serial} counts on ${first.seats || first.accessibleSeats} ${first.seats ? '' : 'accessible '}seats in ${title} (${first.session}) that no room has${missing.length > 1 ? `, and on seats in ${missing.length - 1} more places` : ''}. Add the rooms first; nothing was changed.`)
  }
}

interface Going { row: StandingRow, needs: boolean, told: string | null }

const seatable = { waiting: ['accepted'], everyone: ['accepted', 'placed', 'card issued'] }

/** Takes the seats of people whom a run of everyone sends to another city, and tells which city each had. */
async function unseatMovers(tx: Executor, context: Context, run: StoredRun): Promise<Map<string, string>> {
  if (run.scope === 'waiting') return new Map()
  const movers = await tx.select({ id: seat.applicationId, city: seat.city }).from(runPlacement)
    .innerJoin(seat, eq(seat.applicationId, runPlacement.applicationId)).innerJoin(application, eq(application.id, seat.applicationId))
    .where(and(eq(runPlacement.runId, run.id), isNotNull(runPlacement.city), ne(runPlacement.city, seat.city), inArray(application.headline, seatableHeadlines(run)))).for('update', { of: application })
  await unseat(tx, context, movers.map(m => m.id))
  return new Map(movers.map(m => [m.id, m.city]))
}

const seatableHeadlines = (run: StoredRun) => seatable[run.scope] as ApplicationRow['headline'][]

/** Who of a run gets a seat in a city now, and who keeps one there; `told` is the city of the seat somebody had. */
async function peopleOfCity(tx: Executor, run: StoredRun, city: string, before: Map<string, string>): Promise<{ coming: Going[], staying: Going[], leftOut: number }> {
  const placed = await tx.select({ row: standingColumns, needs: runPlacement.needs, seatedIn: seat.city }).from(runPlacement)
    .innerJoin(application, eq(application.id, runPlacement.applicationId)).leftJoin(seat, eq(seat.applicationId, application.id))
    .where(and(eq(runPlacement.runId, run.id), eq(runPlacement.city, city))).orderBy(asc(application.number)).for('update', { of: application })
  const states = seatableHeadlines(run)
  const fitting = placed.filter(p => states.includes(p.row.headline) && (p.seatedIn === null || run.scope === 'everyone'))
  const going = fitting.map(({ row, needs, seatedIn }) => ({ row, needs, told: seatedIn ?? before.get(row.id) ?? null, stays: seatedIn === city }))
  return { coming: going.filter(p => !p.stays), staying: going.filter(p => p.stays), leftOut: placed.length - fitting.length }
}

/** Takes seats; a card that was issued for one is void. */
async function unseat(tx: Executor, context: Context, applicationIds: string[]): Promise<void> {
  for (let from = 0; from < applicationIds.length; from += 1000) {
    const ids = applicationIds.slice(from, from + 1000)
    await tx.delete(seat).where(inArray(seat.applicationId, ids))
    await tx.update(admitCard).set({ replacedAt: context.now() }).where(and(inArray(admitCard.applicationId, ids), isNull(admitCard.replacedAt)))
  }
}

type SeatRow = typeof seat.$inferSelect
interface CityInRun { notice: Notice, city: City, index: number, run: StoredRun }

/** Gives everybody who comes to a city a seat and a roll number; those who stay and get another seat keep theirs. */
async function seatCity(tx: Executor, context: Context, at: CityInRun, coming: Going[], staying: Going[]): Promise<Going[]> {
  if (coming.length === 0 && staying.length === 0) return []
  const { cycle: code } = at.run
  const given = await tx.select().from(seat).where(and(eq(seat.cycle, code), eq(seat.city, at.city.id)))
  const { leaving, seats } = fitSeats(at, given, coming, staying)
  // Serials go on from the last that was ever given: no doubles, whatever the number of runs and moves.
  const [serial] = await tx.insert(rollSerial).values({ cycle: code, city: at.city.id, last: coming.length })
    .onConflictDoUpdate({ target: [rollSerial.cycle, rollSerial.city], set: { last: sql`${rollSerial.last} + ${coming.length}` } }).returning()
  const before = (serial?.last ?? coming.length) - coming.length
  const rolls = new Map(given.map(s => [s.applicationId, s.roll]))
  await unseat(tx, context, leaving.map(p => p.row.id))
  const all = [...coming.map((p, i) => ({ ...p, roll: rollNumber(at.index, before + i + 1) })), ...leaving.map(p => ({ ...p, roll: rolls.get(p.row.id) ?? '' }))]
  const rows = all.map(({ row, roll }) => {
    const place = seats.get(row.number)
    if (!place) throw new ProblemError('fault', `${row.number} got no seat in ${at.city.title}.`)
    return { applicationId: row.id, cycle: code, runId: at.run.id, ...place, roll }
  })
  for (let from = 0; from < rows.length; from += 1000) await tx.insert(seat).values(rows.slice(from, from + 1000))
  await auditMany(tx, context, 'seat published', all.map(({ row, told }, i) => ({ subject: `application:${row.number}`, before: { placement: row.placement, city: told }, after: rows[i] })))
  return leaving
}

/** The seats of those who come, and of those who stay but must leave theirs. */
function fitSeats(at: CityInRun, given: SeatRow[], coming: Going[], staying: Going[]): { leaving: Going[], seats: Map<string, Seat> } {
  const limits = at.run.seats.filter(s => s.city === at.city.id)
  const person = (p: Going) => ({ id: p.row.number, needsAccessible: p.needs })
  const people = coming.map(person)
  try {
    if (at.run.scope === 'waiting') return { leaving: [], seats: assignSeats(at.city.id, openSeats(at.city, at.notice.sessions, limits, new Set(given.map(seatKey))), people) }
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
    return { leaving: staying.filter(p => left.has(p.row.number)), seats: assignSeats(at.city.id, free, [...leaving, ...people]) }
  } catch (error) {
    if (!(error instanceof RangeError)) throw error
    throw new ProblemError('conflict', `${at.city.title} is full: ${coming.length} people of this run, fewer free seats since another run was published. Start a new run; nothing was changed.`)
  }
}
