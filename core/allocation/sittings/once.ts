import { solveBestFit, type Watch } from '../best-fit'
import { noCity, type Sittings } from '../instance'
import { closed, type OptionTable } from '../option-table'
import type { SittingPrices } from './prices'
import type { Problem } from './problem'

/** People who sit once: the city of each, and of their ways those that lead to seats of the part that they were placed in. */
export interface Once {
  cityOf: Uint16Array
  waysOf: (person: number) => number[]
  prices: SittingPrices
}

/** Memory grows with the square of the nodes: 20,000 people on 1,920 took 2.4 s and 0.3 GB, on 3,840 0.9 GB. */
const mostNodes = 2000

/**
 * Places people of whom nobody sits more than one paper: then everybody needs one seat, in any column of those that are open to them, and
 * the problem is that of a cycle without test papers. Columns that are open to the same people are one, and each of them is a city of its
 * own there.
 *
 * @returns the placement of least cost and the prices that prove it; null where somebody sits several papers, people come together, columns
 * share their accessible seats, or there are more than the memory should bear.
 * @throws Cancelled when `watch` says so.
 */
export function placedOnce(problem: Problem, watch: Watch): Once | null {
  const { table, sittings, parties } = problem
  if (parties.length > 0 || sittings.within || sittings.kinds.some(({ ways }) => ways.some(way => way.length !== 1))) return null
  const of = columnClasses(sittings)
  const pairs = new Map<string, number>()
  const pairOf = Uint32Array.from(table.group, (group, person) => {
    const key = `${group} ${sittings.kindOf[person]!}`
    const known = pairs.get(key) ?? pairs.size
    pairs.set(key, known)
    return known
  })
  if (table.cities * of.count > mostNodes || pairs.size > noCity) return null
  const { cityOf, prices } = solveBestFit(expanded(problem, of, pairOf, pairs), watch)
  const columns = sittings.sessions.length
  const spread = (price: Float64Array) =>
    Float64Array.from({ length: table.cities * columns }, (_, at) => {
      const place = of.classOf[at % columns]!
      return place < 0 ? 0 : price[Math.floor(at / columns) * of.count + place]!
    })
  return {
    cityOf: cityOf.map(node => node === noCity ? noCity : Math.floor(node / of.count)),
    waysOf: (person) => {
      const place = cityOf[person]! % of.count
      return sittings.kinds[sittings.kindOf[person]!]!.ways.flatMap(([column], way) => of.classOf[column!] === place ? [way] : [])
    },
    prices: { seat: spread(prices.seat), accessibleSeat: spread(prices.accessibleSeat) },
  }
}

/** Columns that are open to the same kinds of people: the class of each, -1 where it is open to nobody, and those of each kind. */
interface Classes {
  count: number
  classOf: Int32Array
  ofKind: number[][]
}

function columnClasses({ sessions, kinds }: Sittings): Classes {
  const found = new Map<string, number>()
  const classOf = Int32Array.from(sessions, (_, column) => {
    const open = kinds.flatMap(({ ways }, kind) => ways.some(([own]) => own === column) ? [kind] : [])
    if (open.length === 0) return -1
    const key = open.join()
    const known = found.get(key) ?? found.size
    found.set(key, known)
    return known
  })
  return {
    count: Math.max(1, found.size),
    classOf,
    ofKind: kinds.map(({ ways }) => [...new Set(ways.map(([column]) => classOf[column!]!))]),
  }
}

/** The options of everybody, with each class of columns in each city as a city of its own. */
function expanded(
  { table, sittings: { seats, accessible, sessions, kindOf } }: Problem,
  { count, classOf, ofKind }: Classes,
  pairOf: Uint32Array,
  pairs: ReadonlyMap<string, number>,
): OptionTable {
  const { people, cities, slots } = table
  const width = slots * Math.max(1, ...ofKind.map(classes => classes.length))
  const [capacity, open] = [new Int32Array(cities * count), new Int32Array(cities * count)]
  seats.forEach((n, at) => {
    const place = classOf[at % sessions.length]!
    if (place < 0) return
    const node = Math.floor(at / sessions.length) * count + place
    capacity[node]! += n
    open[node]! += accessible[at]!
  })
  const [city, cost] = [new Uint16Array(people * width).fill(noCity), new Int32Array(people * width)]
  for (let person = 0; person < people; person += 1) {
    let at = person * width
    for (let slot = person * slots; slot < (person + 1) * slots && table.city[slot] !== noCity; slot += 1) {
      for (const place of ofKind[kindOf[person]!]!) {
        city[at] = table.city[slot]! * count + place
        cost[at] = table.cost[slot]!
        at += 1
      }
    }
  }
  const fallback = new Int32Array(pairs.size * cities * count).fill(closed)
  for (const [key, pair] of pairs) {
    const [group, kind] = key.split(' ').map(Number)
    for (let k = 0; k < cities; k += 1) {
      for (const place of ofKind[kind!]!) fallback[(pair * cities + k) * count + place] = table.fallback[group! * cities + k]!
    }
  }
  return {
    people,
    cities: cities * count,
    capacity,
    accessible: open,
    slots: width,
    city,
    cost,
    needs: table.needs,
    groups: pairs.size,
    group: Uint16Array.from(pairOf),
    fallback,
    unseated: table.unseated,
  }
}
