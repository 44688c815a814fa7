import { allocate } from '../core/allocation/allocate'
import { InstanceBuilder } from '../core/allocation/instance'
import { setApart, sittingsOf, waysWithKept, withUnusedOpened, type KeptSeats } from '../core/allocation/kept'
import { usualCosts } from '../core/allocation/policy'
import { Random } from '../core/random'

/**
 * People who sit once, in either of two sessions, where the five most wanted cities keep a fifth of their seats for one person in seven:
 * time, cost, proven bound and gap of the office's run, both placings together, beside the exact run of the same people without kept seats,
 * in the same run. `npx tsx bench/kept.ts [people cities]`; without arguments the whole table.
 */
const [some, where] = process.argv.slice(2).map(Number)
const sizes: [number, number][] = some && where ? [[some, where]] : [[5000, 24], [50_000, 24], [200_000, 24], [500_000, 60]]
const policy = { kind: 'best-fit', seed: 0, staying: 0, ...usualCosts } as const
const sessions = ['one', 'two']

function timed<T>(work: () => T): [T, number] {
  const before = process.cpuUsage()
  const result = work()
  const { user, system } = process.cpuUsage(before)
  return [result, (user + system) / 1e6]
}

console
  .log('| people x cities | CPU | without kept seats | cost | bound | gap | kept | opened | cost without kept |\n|---|---|---|---|---|---|---|---|---|')
for (const [people, cities] of sizes) {
  const random = new Random(7)
  const places = Array.from(
    { length: cities },
    (_, i) => ({
      id: `c${String(i).padStart(2, '0')}`,
      lat: random.between(-5, 5),
      lon: random.between(-5, 5),
      capacity: 0,
      accessibleCapacity: 0,
    }),
  )
  // The square of an even draw: the first cities are named most.
  const city = () => Math.floor(random.next() ** 2 * cities)
  const all = Array.from(
    { length: people },
    () => ({ home: city(), choices: [...new Set([city(), city(), city()])], needs: random.chance(0.03), isTheirs: random.chance(1 / 7) }),
  )
  const seats = Math.ceil(people * 1.08 / cities / sessions.length)
  const free = places.flatMap(({ id }) => sessions.map(session => ({ city: id, session, seats, accessibleSeats: Math.ceil(seats * 0.08) })))
  const kept: KeptSeats[] = [{
    title: 'theirs',
    unused: 'open to all',
    seats: places.slice(0, 5).map(({ id }) => ({ city: id, seats: Math.floor(seats / 5) })),
  }]
  const build = (rows: typeof free | null) => {
    const builder = new InstanceBuilder(
      places.map(place => ({ ...place, capacity: seats * 2, accessibleCapacity: Math.ceil(seats * 0.08) * 2 })),
      5,
      'instant',
    )
    all.forEach(({ isTheirs, ...one }, i) => builder.add({ id: String(i).padStart(8, '0'), ...one, turn: i, kind: isTheirs ? 1 : 0 }))
    const kinds = [0, 1].map(held => ({ papers: [''], ways: waysWithKept([[0], [1]], 2, 1, held) }))
    return builder.build(
      undefined,
      rows ? sittingsOf({ cities: places, sessions: sessions.map(id => ({ id })) }, kinds, rows, 1) : undefined,
    )
  }
  const rows = setApart(free, kept)
  const [{ result, opened }, seconds] = timed(() => {
    const instance = build(rows)
    const first = allocate(instance, policy)
    const again = withUnusedOpened(instance, first, rows, kept)
    return { result: again ? allocate(again.instance, policy) : first, opened: again?.free ?? rows }
  })
  const [plain, plainSeconds] = timed(() => allocate(build(null), policy))
  const sum = (of: typeof rows) => of.reduce((n, row) => row.session.includes('+') ? n + row.seats : n, 0)
  const gap = (100 * (result.cost - result.bound) / result.bound).toFixed(2)
  console
    .log(`| ${people.toLocaleString('en-GB')} x ${cities} | ${seconds.toFixed(1)} s | ${plainSeconds.toFixed(1)} s | ${
      result.cost.toLocaleString('en-GB')
    } | ${result.bound.toLocaleString('en-GB')} | ${gap} % | ${sum(rows)} | ${sum(rows) - sum(opened)} | ${
      plain.cost.toLocaleString('en-GB')
    } |`)
}
