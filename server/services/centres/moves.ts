import { and, asc, eq } from 'drizzle-orm'
import type { Bars, Instance } from '../../../core/allocation/instance'
import { RestrictedClasses } from '../../../core/allocation/restrictions'
import { placeableOf } from '../../../core/application/sheet'
import type { HandPlacement } from '../../../shared/centres'
import { refusal } from '../../../shared/refusal'
import { application, placementLock, runPlacement } from '../../database/schema'
import { carryOut } from '../acts/carry-out'
import type { Given } from '../acts/given'
import { countedAnswers } from '../applications/store'
import type { Caller } from '../context'
import { namesOf } from '../people/names'
import { instanceOfRun } from './run-view'
import { storedRun } from './runs'
import type { Solver } from './solver'

/**
 * What placing somebody of a run in a city by hand would cost: points over all people together, found by placing everyone anew. Where
 * people sit test papers neither placement is proven the best, and it is about that.
 */
export async function costOfMove(
  caller: Caller,
  runId: string,
  applicationId: string,
  city: string,
  solve: Solver,
): Promise<{ points: number }> {
  const context = await caller.authorise('centres.run')
  const run = await storedRun(context.db, runId)
  const instance = await instanceOfRun(context.db, run)
  const [row] = await context.db.select({ number: application.number }).from(runPlacement).innerJoin(
    application,
    eq(application.id, runPlacement.applicationId),
  ).where(and(eq(runPlacement.runId, runId), eq(runPlacement.applicationId, applicationId)))
  const person = instance.ids.indexOf(row?.number ?? '')
  const k = instance.cities.findIndex(c => c.id === city)
  if (person < 0) throw refusal('place.not-in-run')
  const there = instance.cities[k]
  const kind = instance.needs[person] === 1 ? 'accessibleCapacity' : 'capacity'
  if (!there || there[kind] < 1) throw refusal('place.no-seat', { kind: kind === 'capacity' ? 'all' : 'accessible' })
  if (instance.bars?.closed[(instance.bars.classOf[person] ?? 0) * instance.cities.length + k] === 1) {
    throw refusal('place.closed', { number: row?.number ?? '' })
  }
  const base = await solve(instance, run.policy)
  const forced = await solve({ ...instance, bars: onlyTo(instance, person, k) }, run.policy)
  return { points: Math.max(0, forced.cost - base.cost) }
}

// One person is of a class of their own, to which one city is open; everybody else stays in theirs.
function onlyTo(instance: Instance, person: number, city: number): Bars {
  const cities = instance.cities.length
  const { classes, classOf, closed } = instance.bars
    ?? { classes: 1, classOf: new Uint16Array(instance.ids.length), closed: new Uint8Array(cities) }
  const own = new Uint8Array(cities).fill(1)
  own[city] = 0
  const moved = classOf.slice()
  moved[person] = classes
  return { classes: classes + 1, classOf: moved, closed: Uint8Array.from([...closed, ...own]) }
}

/** Places somebody by hand: from now on every run leaves them in that city. What is published stays until a run of everyone is. */
export async function placeByHand(caller: Caller, applicationId: string, city: string, given: Given): Promise<void> {
  await carryOut(caller, 'place-by-hand', applicationId, given, async ({ tx, context, row, notice }) => {
    if (!notice.cities.some(c => c.id === city)) throw refusal('place.city-unknown', { city })
    const placeable = placeableOf(notice, countedAnswers(notice, row))
    if (placeable) {
      const classes = new RestrictedClasses(notice.allocation.restrictions)
      classes.classOf(placeable.held, placeable.home)
      const at = notice.cities.findIndex(c => c.id === city)
      if (classes.bars(notice.cities)?.closed[at] === 1) throw refusal('place.closed', { number: row.number })
    }
    const [before] = await tx.select().from(placementLock).where(eq(placementLock.applicationId, applicationId))
    const values = { city, reason: given.reason ?? '', by: context.principal.id, at: context.now() }
    await tx.insert(placementLock).values({ applicationId, cycle: row.cycle, ...values }).onConflictDoUpdate({
      target: placementLock.applicationId,
      set: values,
    })
    return { result: null, before: before ? { city: before.city } : {}, after: { city } }
  })
}

/** Lets somebody placed by hand go back into the runs. */
export async function releasePlacement(caller: Caller, applicationId: string, given: Given): Promise<void> {
  await carryOut(caller, 'release-by-hand', applicationId, given, async ({ tx, row }) => {
    const [before] = await tx.delete(placementLock).where(eq(placementLock.applicationId, applicationId)).returning()
    if (!before) throw refusal('place.not-by-hand', { number: row.number })
    return { result: null, before: { city: before.city }, after: {} }
  })
}

/** The people placed by hand, in the order of their numbers. */
export async function listHandPlacements(caller: Caller, cycle: string): Promise<HandPlacement[]> {
  const context = await caller.authorise('centres.read', { cycle })
  const rows = await context.db.select({
    applicationId: placementLock.applicationId,
    number: application.number,
    name: application.displayName,
    city: placementLock.city,
    reason: placementLock.reason,
    by: placementLock.by,
    at: placementLock.at,
  }).from(placementLock).innerJoin(application, eq(application.id, placementLock.applicationId)).where(eq(placementLock.cycle, cycle))
    .orderBy(asc(application.number)).limit(1000)
  const name = await namesOf(context.db, rows.map(row => row.by))
  return rows.map(row => ({ ...row, by: name(row.by), at: row.at.toISOString() }))
}
