import { InstanceBuilder, type Instance, type SittingKind } from '../core/allocation/instance'
import { distanceKm } from '../core/allocation/policy'
import { Random } from '../demo/random'

/** Columns of seats: the three sessions, and seats of the first kept for those who sit law, of the second for women. */
const within = Uint16Array.of(0, 1, 2, 0, 1)
const papers = [{ id: 'law', columns: [0, 1, 3] }, { id: 'engines', columns: [1] }, { id: 'oceans', columns: [2, 0] }] as const
const wanted = [[0], [1], [2], [0, 2], [0, 1], [2, 0]] as const
const nearKm = 250

/**
 * Made-up people with one or two of three papers over three sessions, a fifth of them in parties, with two reserved quotas, a city closed
 * to one paper, and a tenth who were promised a city near home.
 *
 * @param room seats against the people who want them.
 */
export function madeParties(seed: number, people: number, cities: number, room: number): Instance {
  const random = new Random(seed)
  const each = Math.ceil(people * 1.7 * room / (cities * 3))
  const places = Array.from(
    { length: cities },
    (_, k) => ({
      id: `c${String(k).padStart(2, '0')}`,
      lat: random.between(-2, 2),
      lon: random.between(0, 4),
      capacity: 0,
      accessibleCapacity: 0,
    }),
  )
  const seats = new Int32Array(cities * within.length)
  const accessible = new Int32Array(seats.length)
  for (let k = 0; k < cities; k += 1) {
    for (let s = 0; s < 3; s += 1) {
      seats[k * within.length + s] = Math.max(1, Math.round(each * random.between(0.5, 1.5)))
      accessible[k * within.length + s] = Math.floor((seats[k * within.length + s] ?? 0) * 0.2)
    }
  }
  for (const [column, part] of [[3, 3], [4, 4]] as const) {
    const session = within[column] ?? 0
    seats[column] = Math.floor((seats[session] ?? 0) / part)
    seats[session] = (seats[session] ?? 0) - (seats[column] ?? 0)
  }
  const collide = random.chance(0.5) ? (a: number, b: number) => a === b || (a > 0 && b > 0) : (a: number, b: number) => a === b
  const kinds = wanted.flatMap(list =>
    [false, true].map((isWoman): SittingKind => {
      const ways = list.reduce<number[][]>((found, paper) =>
        found.flatMap((way) => {
          const open = [...papers[paper].columns, ...(isWoman && papers[paper].columns.some(column => column === 1) ? [4] : [])]
          return open.filter(column => !way.some(other => collide(within[column] ?? 0, within[other] ?? 0))).map(column => [...way, column])
        }), [[]])
      return { papers: list.map(paper => papers[paper].id), ways }
    })
  )
  const builder = new InstanceBuilder(places, 3, 'row')
  for (let i = 0; i < people; i += 1) {
    const choices = [...new Set([0, 1, 2].map(() => Math.min(random.whole(0, cities - 1), random.whole(0, cities - 1))))]
    const [home, needs, at] = [random.whole(0, cities - 1), random.chance(0.1), random.whole(0, wanted.length - 1)]
    const [isWoman, isPromised, isTogether] = [random.chance(0.4), random.chance(0.1), random.chance(0.2)]
    // Classes: nothing is closed, the last city to engines, and both again for each home with a promise.
    const isEngines = wanted[at]?.some(paper => paper === 1) && cities > 2
    builder.add({
      id: `p${String(i).padStart(6, '0')}`,
      home,
      choices,
      needs,
      turn: i,
      kind: at * 2 + (isWoman ? 1 : 0),
      class: (isPromised ? 2 + home * 2 : 0) + (isEngines ? 1 : 0),
      ...(isTogether && { party: random.whole(0, Math.ceil(people / 8)) }),
    })
  }
  const classes = 2 + 2 * cities
  const closed = new Uint8Array(classes * cities)
  for (let of = 0; of < classes; of += 1) {
    const home = places[Math.floor(of / 2) - 1]
    places.forEach((city, k) => {
      closed[of * cities + k] = (of % 2 === 1 && k === cities - 1) || (home !== undefined && distanceKm(home, city) > nearKm) ? 1 : 0
    })
  }
  return builder.build({ classes, closed }, {
    sessions: ['one', 'two', 'three', 'one, law', 'two, women'],
    within,
    seats,
    accessible,
    kinds,
  })
}
