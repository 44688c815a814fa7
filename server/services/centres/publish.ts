import { and, asc, eq, sql } from 'drizzle-orm'
import { placeableOf } from '../../../core/application/sheet'
import { assignSeats, rollNumber, seatKey, type Seat } from '../../../core/seating/seats'
import type { City, Notice } from '../../../core/notice/schema'
import { ProblemError } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { allocationRun, application, cycle, runPlacement, seat } from '../../database/schema'
import { countedAnswers, saveTracks, type ApplicationRow } from '../applications/store'
import { audit, demand, type Context } from '../context'
import { currentNotice } from '../notice/notices'

/**
 * Publishes a run: gives each of its people a seat and a roll number and lets them move on. All or nothing, and once.
 * People who are no longer accepted, or who were seated by another run since, are left out and counted.
 */
export async function publishRun(context: Context, runId: string): Promise<{ seated: number, leftOut: number }> {
  const actor = demand(context, 'centres.publish')
  return context.db.transaction(async (tx) => {
    const [found] = await tx.select().from(allocationRun).where(eq(allocationRun.id, runId))
    if (!found) throw new ProblemError('not-found', 'There is no such run.')
    // The cycle's row is held: two runs cannot give out seats at the same time.
    await tx.select().from(cycle).where(eq(cycle.code, found.cycle)).for('update')
    const [run] = await tx.select().from(allocationRun).where(eq(allocationRun.id, runId))
    if (!run || run.publishedAt) throw new ProblemError('conflict', `Run ${found.serial} was published by ${run?.publishedBy ?? 'somebody'}. Nothing was changed.`)
    if (!run.certified) {
      throw new ProblemError('not-now', `Run ${run.serial} is not certified: its cost is ${run.cost}, its bound ${run.bound}. Only a run proven to be the best can be published.`)
    }
    const { notice } = await currentNotice(tx, run.cycle)
    const placed = await tx.select({ row: application, city: runPlacement.city }).from(runPlacement)
      .innerJoin(application, eq(application.id, runPlacement.applicationId))
      .where(and(eq(runPlacement.runId, runId), sql`${runPlacement.city} is not null`)).orderBy(asc(application.number)).for('update', { of: application })
    const going = placed.filter(p => p.row.headline === 'accepted')
    if (going.length === 0) throw new ProblemError('not-now', `Nobody of run ${run.serial} still waits for a seat. Start a new run.`)
    for (const [index, city] of notice.cities.entries()) {
      await seatCity(tx, context, { notice, city, index, runId, cycle: run.cycle }, going.filter(p => p.city === city.id).map(p => p.row))
    }
    await tx.update(allocationRun).set({ publishedAt: context.now(), publishedBy: actor.name }).where(eq(allocationRun.id, runId))
    await audit(tx, context, 'publish run', `run:${run.cycle}/${run.serial}`, null, { seated: going.length, leftOut: placed.length - going.length })
    return { seated: going.length, leftOut: placed.length - going.length }
  })
}

interface CityInRun { notice: Notice, city: City, index: number, runId: string, cycle: string }

async function seatCity(tx: Executor, context: Context, at: CityInRun, rows: ApplicationRow[]): Promise<void> {
  if (rows.length === 0) return
  const given = await tx.select().from(seat).where(and(eq(seat.cycle, at.cycle), eq(seat.city, at.city.id)))
  const people = rows.map(row => ({ id: row.number, needsAccessible: placeableOf(at.notice, countedAnswers(at.notice, row))?.needsAccessible ?? false }))
  const seats = fitSeats(at, people, new Set(given.map(seatKey)))
  // Serials follow those given out before: no gaps, no doubles, whatever the number of runs.
  let serial = given.length
  for (const row of rows) {
    const place = seats.get(row.number)
    if (!place) throw new ProblemError('fault', `${row.number} got no seat in ${at.city.title}.`)
    serial += 1
    await tx.insert(seat).values({ applicationId: row.id, cycle: at.cycle, runId: at.runId, ...place, roll: rollNumber(at.index, serial) })
    await saveTracks(tx, context, row, { placement: 'published' })
    await audit(tx, context, 'seat published', `application:${row.number}`, { placement: row.placement }, { ...place, roll: rollNumber(at.index, serial) })
  }
}

function fitSeats(at: CityInRun, people: { id: string, needsAccessible: boolean }[], taken: Set<string>): Map<string, Seat> {
  try {
    return assignSeats(at.city, at.notice.sessions, people, taken)
  } catch (error) {
    if (!(error instanceof RangeError)) throw error
    throw new ProblemError('conflict', `${at.city.title} is full: ${people.length} people of this run, fewer free seats since another run was published. Start a new run; nothing was changed.`)
  }
}
