import { and, asc, eq } from 'drizzle-orm'
import type { Bars, Instance } from '../../../core/allocation/instance'
import { RestrictedClasses } from '../../../core/allocation/restrictions'
import { placeableOf } from '../../../core/application/sheet'
import type { HandPlacement } from '../../../shared/centres'
import { ProblemError } from '../../../shared/problem'
import { application, placementLock, runPlacement } from '../../database/schema'
import { countedAnswers, lockApplication } from '../applications/store'
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
  if (instance.bars?.closed[(instance.bars.classOf[person] ?? 0) * instance.cities.length + k] === 1) throw new ProblemError('not-now', `The notice closes this city to ${row?.number}. Nobody was moved.`)
  const base = await solve(instance, run.policy)
  const forced = await solve({ ...instance, bars: onlyTo(instance, person, k) }, run.policy)
  return { points: forced.cost - base.cost }
}

// One person is of a class of their own, to which one city is open; everybody else stays in theirs.
function onlyTo(instance: Instance, person: number, city: number): Bars {
  const cities = instance.cities.length
  const { classes, classOf, closed } = instance.bars ?? { classes: 1, classOf: new Uint16Array(instance.ids.length), closed: new Uint8Array(cities) }
  const own = new Uint8Array(cities).fill(1)
  own[city] = 0
  const moved = classOf.slice()
  moved[person] = classes
  return { classes: classes + 1, classOf: moved, closed: Uint8Array.from([...closed, ...own]) }
}

/** Places somebody by hand: from now on every run leaves them in that city. What is published stays until a run of everyone is. */
export async function placeByHand(context: Context, applicationId: string, city: string, reason: string): Promise<void> {
  const actor = demand(context, 'centres.run')
  await context.db.transaction(async (tx) => {
    const row = await lockApplication(tx, applicationId)
    const { notice } = await currentNotice(tx, row.cycle)
    if (!notice.cities.some(c => c.id === city)) throw new ProblemError('bad-input', `The notice knows no city "${city}". Nobody was moved.`)
    const placeable = placeableOf(notice, countedAnswers(notice, row))
    if (placeable) {
      const classes = new RestrictedClasses(notice.allocation.restrictions)
      classes.classOf(placeable.held, placeable.home)
      const at = notice.cities.findIndex(c => c.id === city)
      if (classes.bars(notice.cities)?.closed[at] === 1) throw new ProblemError('not-now', `The notice closes this city to ${row.number}. Nobody was moved.`)
    }
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
