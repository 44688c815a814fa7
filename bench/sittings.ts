import { allocate } from '../core/allocation/allocate'
import { noCity, type Instance } from '../core/allocation/instance'
import { usualCosts } from '../core/allocation/policy'
import { madeSittings, sixSessions } from './sitting-instances'

/**
 * People who sit one to three test papers at size: time, cost, proven bound, the gap between them, and how much longer it takes than the
 * same people without test papers on as many seats, in the same run. `npx tsx bench/sittings.ts [people cities room sessions]`; without
 * arguments the whole table.
 */
const [people, cities, room, sessions] = process.argv.slice(2).map(Number)
const sizes: [number, number, number, number][] = people && cities && room && sessions
  ? [[people, cities, room, sessions]]
  : [[500, 8, 1.08, 4], [5000, 24, 1.08, 4], [5000, 24, 1.3, 4], [5000, 24, 1.08, 6], [50_000, 24, 1.08, 4], [60_000, 30, 1.08, 6], [
    200_000,
    24,
    1.2,
    4,
  ], [500_000, 60, 1.2, 6]]
const policy = { kind: 'best-fit', seed: 0, staying: 0, ...usualCosts } as const

/** The same people, each with one seat in whichever session. */
function once({ sittings, cities, ...rest }: Instance): Instance {
  const sessions = sittings?.sessions.length ?? 1
  const sum = (seats: Int32Array | undefined, k: number) =>
    seats?.subarray(k * sessions, (k + 1) * sessions).reduce((a, b) => a + b, 0) ?? 0
  return {
    ...rest,
    cities: cities.map((city, k) => ({ ...city, capacity: sum(sittings?.seats, k), accessibleCapacity: sum(sittings?.accessible, k) })),
  }
}

function timed(instance: Instance, effort: 'quick' | 'thorough' = 'thorough') {
  const before = process.cpuUsage()
  const result = allocate(instance, policy, () => true, effort)
  const { user, system } = process.cpuUsage(before)
  return { ...result, seconds: (user + system) / 1e6 }
}

const gapOf = ({ cost, bound }: { cost: number, bound: number }) => `${(100 * (cost - bound) / bound).toFixed(2)} %`
console
  .log('| people x cities x sessions | seats to wants | CPU | quick | without papers | cost | bound | gap | gap of quick | without a seat |\n|---|---|---|---|---|---|---|---|---|---|')
for (const [people, cities, room, sessions] of sizes) {
  const instance = sessions === 6 ? madeSittings(7, people, cities, room, sixSessions, true) : madeSittings(7, people, cities, room)
  const [own, quick, plain] = [timed(instance), timed(instance, 'quick'), timed(once(instance))]
  console
    .log(`| ${people.toLocaleString('en-GB')} x ${cities} x ${sessions} | ${room} | ${own.seconds.toFixed(1)} s | ${
      quick.seconds.toFixed(1)
    } s | ${plain.seconds.toFixed(1)} s | ${own.cost.toLocaleString('en-GB')} | ${own.bound.toLocaleString('en-GB')} | ${gapOf(own)} | ${
      gapOf(quick)
    } | ${own.cityOf.filter(k => k === noCity).length} |`)
}
