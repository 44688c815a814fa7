import { createHash } from 'node:crypto'
import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm'
import { listAnswer } from '../../../core/application/answers'
import { placeableOf } from '../../../core/application/sheet'
import { solveBestFit } from '../../../core/allocation/best-fit'
import type { AllocationProblem, AllocationResult } from '../../../core/allocation/problem'
import { capacityOfCity } from '../../../core/seating/seats'
import type { Notice } from '../../../core/notice/schema'
import type { RunDetail, RunRow } from '../../../shared/centres'
import { ProblemError } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { allocationRun, application, cycle, runPlacement, seat, type RunSummary } from '../../database/schema'
import { countedAnswers } from '../applications/store'
import { audit, demand, type Context } from '../context'
import { currentNotice } from '../notice/notices'

/**
 * Allocates every accepted application that has no published seat, over the seats that published ones leave free, and
 * keeps the run with its inputs' hash. Nothing that was published before moves.
 *
 * @throws ProblemError `not-now` when nobody waits for a place.
 */
export async function runAllocation(context: Context, cycleCode: string): Promise<{ runId: string, serial: number }> {
  const actor = demand(context, 'centres.run')
  const { notice } = await currentNotice(context.db, cycleCode)
  const { problem, ids } = await readProblem(context.db, cycleCode, notice)
  if (problem.candidates.length === 0) throw new ProblemError('not-now', 'No accepted application waits for a place. Accept some in scrutiny first.')
  const result = solveBestFit(problem)
  return context.db.transaction(async (tx) => {
    await tx.select().from(cycle).where(eq(cycle.code, cycleCode)).for('update')
    const [last] = await tx.select({ serial: allocationRun.serial }).from(allocationRun).where(eq(allocationRun.cycle, cycleCode)).orderBy(desc(allocationRun.serial)).limit(1)
    const runId = context.newId()
    const serial = (last?.serial ?? 0) + 1
    await tx.insert(allocationRun).values({
      id: runId, cycle: cycleCode, serial, policy: problem.policy, inputsSha256: createHash('sha256').update(JSON.stringify(problem)).digest('hex'),
      cost: result.cost, bound: result.bound, certified: result.certified, prices: result.prices,
      summary: summarise(problem, result), by: actor.name, at: context.now(),
    })
    const rows = result.placements.map(p => ({ runId, applicationId: ids.get(p.candidate) ?? '', city: p.city, choice: p.choice, cost: p.cost }))
    for (let i = 0; i < rows.length; i += 1000) await tx.insert(runPlacement).values(rows.slice(i, i + 1000))
    // "placed" does not change the headline, so the tracks may be written in one statement.
    await tx.update(application).set({ placement: 'placed', updatedAt: context.now() }).where(and(
      eq(application.cycle, cycleCode), eq(application.placement, 'unplaced'),
      inArray(application.id, tx.select({ id: runPlacement.applicationId }).from(runPlacement).where(and(eq(runPlacement.runId, runId), sql`${runPlacement.city} is not null`))),
    ))
    await audit(tx, context, 'run allocation', `run:${cycleCode}/${serial}`, null, { cost: result.cost, bound: result.bound, certified: result.certified, candidates: rows.length })
    return { runId, serial }
  })
}

async function readProblem(db: Executor, cycleCode: string, notice: Notice): Promise<{ problem: AllocationProblem, ids: Map<string, string> }> {
  const accepted = await db.select({ id: application.id, number: application.number, answers: application.answers, falseClaims: application.falseClaims }).from(application)
    .where(and(eq(application.cycle, cycleCode), eq(application.headline, 'accepted'))).orderBy(asc(application.number))
  const used = await db.select({ city: seat.city, all: sql<string>`count(*)`, accessible: sql<string>`count(*) filter (where ${seat.accessible})` })
    .from(seat).where(eq(seat.cycle, cycleCode)).groupBy(seat.city)
  const ids = new Map<string, string>()
  const candidates = accepted.flatMap((row) => {
    const placeable = placeableOf(notice, countedAnswers(notice, row))
    if (!placeable) return []
    ids.set(row.number, row.id)
    return [{ id: row.number, ...placeable }]
  })
  const cities = notice.cities.map((city) => {
    const { capacity, accessibleCapacity } = capacityOfCity(city, notice.sessions)
    const taken = used.find(u => u.city === city.id)
    return {
      id: city.id, lat: city.lat, lon: city.lon, capacity: capacity - Number(taken?.all ?? 0),
      accessibleCapacity: accessibleCapacity - Number(taken?.accessible ?? 0),
    }
  })
  return { problem: { cities, candidates, policy: { kind: 'best-fit', ...notice.allocation } }, ids }
}

function summarise(problem: AllocationProblem, result: AllocationResult): RunSummary {
  const longest = Math.max(1, ...problem.candidates.map(c => c.choices.length))
  const by = (keep: (p: AllocationResult['placements'][number]) => boolean) => result.placements.filter(keep).length
  return {
    candidates: result.placements.length,
    byChoice: Array.from({ length: longest }, (_, i) => by(p => p.choice === i + 1)),
    offList: by(p => p.city !== null && p.choice === null), unseated: by(p => p.city === null),
    cities: problem.cities.map(city => ({
      city: city.id, capacity: city.capacity, firstChoice: problem.candidates.filter(c => c.choices[0] === city.id).length,
      placed: by(p => p.city === city.id), price: result.prices.find(p => p.city === city.id)?.seat ?? 0,
    })),
  }
}

type StoredRun = typeof allocationRun.$inferSelect
function runRow(run: StoredRun): RunRow {
  return {
    id: run.id, serial: run.serial, cost: run.cost, bound: run.bound, certified: run.certified, summary: run.summary,
    by: run.by, at: run.at.toISOString(), publishedAt: run.publishedAt?.toISOString() ?? null, publishedBy: run.publishedBy, inputsSha256: run.inputsSha256,
  }
}

export async function listRuns(context: Context, cycleCode: string): Promise<RunRow[]> {
  demand(context, 'read')
  const rows = await context.db.select().from(allocationRun).where(eq(allocationRun.cycle, cycleCode)).orderBy(desc(allocationRun.serial)).limit(100)
  return rows.map(runRow)
}

/** One run with the people of one city, or with those off their list when no city is named. */
export async function readRun(context: Context, runId: string, city: string | null): Promise<RunDetail> {
  demand(context, 'read')
  const [run] = await context.db.select().from(allocationRun).where(eq(allocationRun.id, runId))
  if (!run) throw new ProblemError('not-found', 'There is no such run.')
  const people = await context.db.select({
    applicationId: application.id, number: application.number, name: application.displayName, answers: application.answers,
    city: runPlacement.city, choice: runPlacement.choice, cost: runPlacement.cost,
  }).from(runPlacement).innerJoin(application, eq(application.id, runPlacement.applicationId))
    .where(and(eq(runPlacement.runId, runId), city === null ? isNull(runPlacement.choice) : eq(runPlacement.city, city)))
    .orderBy(asc(application.number)).limit(1000)
  return {
    ...runRow(run), policy: run.policy,
    people: people.map(p => ({
      applicationId: p.applicationId, number: p.number, name: p.name, city: p.city, choice: p.choice, cost: p.cost,
      choices: listAnswer(p.answers, 'cities'),
    })),
  }
}
