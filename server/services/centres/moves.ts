import { and, asc, eq } from 'drizzle-orm'
import type { HandPlacement } from '../../../shared/centres'
import { ProblemError } from '../../../shared/problem'
import { application, placementLock, runPlacement } from '../../database/schema'
import { lockApplication } from '../applications/store'
import { audit, demand, type Context } from '../context'
import { currentNotice } from '../notice/notices'
import { instanceOfRun } from './run-view'
import { storedRun } from './runs'
import type { Solver } from './solver'

/** What placing somebody of a run in a city by hand would cost: points over all people together, found by placing everyone anew. */
export async function costOfMove(context: Context, runId: string, applicationId: string, city: string, solve: Solver): Promise<{ points: number }> {
  demand(context, 'centres.run')
  const run = await storedRun(context.db, runId)
  const instance = await instanceOfRun(context.db, run)
  const [row] = await context.db.select({ number: application.number }).from(runPlacement).innerJoin(application, eq(application.id, runPlacement.applicationId))
    .where(and(eq(runPlacement.runId, runId), eq(runPlacement.applicationId, applicationId)))
  const person = instance.ids.indexOf(row?.number ?? '')
  const k = instance.cities.findIndex(c => c.id === city)
  if (person < 0) throw new ProblemError('not-found', 'This person is not among those whom the run placed. Nobody was moved.')
  const there = instance.cities[k]
  const kind = instance.needs[person] === 1 ? 'accessibleCapacity' : 'capacity'
  if (!there || there[kind] < 1) throw new ProblemError('not-now', `This city has no ${kind === 'capacity' ? '' : 'accessible '}seat that the run may fill. Add seats first; nobody was moved.`)
  const base = await solve(instance, run.policy)
  const forced = await solve({ ...instance, bars: onlyTo(instance.ids.length, instance.cities.length, person, k) }, run.policy)
  return { points: forced.cost - base.cost }
}

// Everybody is of class 0, to which all is open; one person is of class 1, to which one city is.
function onlyTo(people: number, cities: number, person: number, city: number) {
  const classOf = new Uint16Array(people)
  classOf[person] = 1
  const closed = new Uint8Array(2 * cities).fill(1, cities)
  closed[cities + city] = 0
  return { classOf, classes: 2, closed }
}

/** Places somebody by hand: from now on every run leaves them in that city. What is published stays until a run of everyone is. */
export async function placeByHand(context: Context, applicationId: string, city: string, reason: string): Promise<void> {
  const actor = demand(context, 'centres.run')
  await context.db.transaction(async (tx) => {
    const row = await lockApplication(tx, applicationId)
    const { notice } = await currentNotice(tx, row.cycle)
    if (!notice.cities.some(c => c.id === city)) throw new ProblemError('bad-input', `The notice knows no city "${city}". Nobody was moved.`)
    if (!['accepted', 'placed', 'card issued'].includes(row.headline)) throw new ProblemError('not-now', `${row.number} is ${row.headline}; only accepted people can be placed. Nobody was moved.`)
    const [before] = await tx.select().from(placementLock).where(eq(placementLock.applicationId, applicationId))
    const values = { city, reason, by: actor.name, at: context.now() }
    await tx.insert(placementLock).values({ applicationId, cycle: row.cycle, ...values }).onConflictDoUpdate({ target: placementLock.applicationId, set: values })
    await audit(tx, context, 'place by hand', `application:${row.number}`, before && { city: before.city, reason: before.reason }, { city, reason })
  })
}

/** Lets somebody placed by hand go back into the runs. */
export async function releasePlacement(context: Context, applicationId: string, reason: string): Promise<void> {
  demand(context, 'centres.run')
  await context.db.transaction(async (tx) => {
    const row = await lockApplication(tx, applicationId)
    const [before] = await tx.delete(placementLock).where(eq(placementLock.applicationId, applicationId)).returning()
    if (!before) throw new ProblemError('conflict', `${row.number} is not placed by hand (any more). Nothing was changed.`)
    await audit(tx, context, 'release placement by hand', `application:${row.number}`, { city: before.city, reason: before.reason }, { reason })
  })
}

/** The people placed by hand, in the order of their numbers. */
export async function listHandPlacements(context: Context, cycle: string): Promise<HandPlacement[]> {
  demand(context, 'read')
  const rows = await context.db.select({
    applicationId: placementLock.applicationId, number: application.number, name: application.displayName, city: placementLock.city, reason: placementLock.reason, by: placementLock.by, at: placementLock.at,
  }).from(placementLock).innerJoin(application, eq(application.id, placementLock.applicationId)).where(eq(placementLock.cycle, cycle)).orderBy(asc(application.number)).limit(1000)
  return rows.map(row => ({ ...row, at: row.at.toISOString() }))
}
