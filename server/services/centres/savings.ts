import { eq } from 'drizzle-orm'
import type { Instance } from '../../../core/allocation/instance'
import { isOpenToAll } from '../../../core/allocation/kept'
import { outcomeOf } from '../../../core/allocation/outcome'
import type { Saving } from '../../../shared/centres'
import { refusal } from '../../../shared/refusal'
import { allocationRun } from '../../database/schema'
import type { Caller } from '../context'
import { instanceOfRun } from './run-view'
import { storedRun } from './runs'
import type { Solver } from './solver'

/** An instance with so many seats more in a city; where people sit test papers, in each of its sessions. */
function withMoreSeats(instance: Instance, city: string, more: number): Instance {
  const { sittings } = instance
  const at = instance.cities.findIndex(c => c.id === city)
  const columns = sittings?.sessions.length ?? 1
  // Seats that are kept for some do not grow: what is built is open to all.
  const isOpen = (column: number) => !sittings || isOpenToAll(sittings, column)
  const sessions = Array.from({ length: columns }, (_, column) => column).filter(isOpen).length
  return {
    ...instance,
    cities: instance.cities.map(c => c.id === city ? { ...c, capacity: c.capacity + more * sessions } : c),
    ...(sittings
      && {
        sittings: {
          ...sittings,
          seats: sittings.seats.map((n, i) => Math.floor(i / columns) === at && isOpen(i % columns) ? n + more : n),
        },
      }),
  }
}

/**
 * What some more seats in each of some cities would save a run, found by placing everyone anew for each city. What was found
 * before is kept; the same question again replaces its answer.
 */
export async function computeSavings(caller: Caller, runId: string, cities: string[], seats: number, solve: Solver): Promise<Saving[]> {
  const context = await caller.authorise('centres.run')
  const run = await storedRun(context.db, runId)
  const instance = await instanceOfRun(context.db, run)
  const unknown = cities.find(id => !instance.cities.some(c => c.id === id))
  if (unknown !== undefined) throw refusal('run.city-unknown', { serial: run.serial, city: unknown })
  const base = await solve(instance, run.policy)
  const offListBefore = outcomeOf(instance, base).offList
  const found: Saving[] = []
  for (const city of cities) {
    const more = withMoreSeats(instance, city, seats)
    const after = await solve(more, run.policy)
    found.push({ city, seats, saves: Math.max(0, base.cost - after.cost), fromOffList: offListBefore - outcomeOf(more, after).offList })
  }
  return context.db.transaction(async (tx) => {
    // The row is held, so that two questions at once do not forget each other's answers.
    await tx.select({ id: allocationRun.id }).from(allocationRun).where(eq(allocationRun.id, runId)).for('update')
    const kept = (await storedRun(tx, runId)).savings.filter(s => !found.some(f => f.city === s.city && f.seats === s.seats))
    await tx.update(allocationRun).set({ savings: [...kept, ...found] }).where(eq(allocationRun.id, runId))
    return [...kept, ...found]
  })
}
