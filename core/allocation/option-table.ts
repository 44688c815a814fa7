import { choiceCost, distanceKm, offListCost, type AllocationPolicy } from './policy'
import { noCity, type Instance } from './instance'

/** What a solver works on: people with their options in typed arrays, all costs worked out. Nothing here knows of names. */
export interface OptionTable {
  people: number
  cities: number
  /** Seats of each city, and those of them that are accessible. */
  capacity: Int32Array
  accessible: Int32Array
  /** Options that are a person's own, `slots` a person; `noCity` where there are fewer. */
  slots: number
  city: Uint16Array
  cost: Int32Array
  /** 1 for people who may sit only on accessible seats. */
  needs: Uint8Array
  /**
   * Every person is of one group, and a group shares what any city off one's own options costs: `fallback[group * cities
   * + city]`, `closed` where the city is not open to the group. Never below the cost of the same city among the own options.
   */
  groups: number
  group: Uint16Array
  fallback: Int32Array
  /** Cost of having no seat; above every other. */
  unseated: number
}

/** Cost of a city that is not open. */
export const closed = 0x3fff_ffff
/** Cost of a city for a person: among the own options, else by the group; of no city: unseated. */
export function costAt(table: OptionTable, person: number, city: number): number {
  if (city === noCity) return table.unseated
  const from = person * table.slots
  let least = table.fallback[table.group[person]! * table.cities + city]!
  for (let slot = from; slot < from + table.slots; slot += 1) {
    if (table.city[slot] === city && table.cost[slot]! < least) least = table.cost[slot]!
  }
  return least
}

/** Total cost of a placement; exact up to 2^53. */
export function totalCost(table: OptionTable, cityOf: Uint16Array): number {
  let sum = 0
  for (let person = 0; person < table.people; person += 1) sum += costAt(table, person, cityOf[person]!)
  return sum
}

/** Everyone told was given the weight on staying off the price of the told city: what has to be put back for the cost of a placement. */
export function putBackForStaying({ told }: Instance, { staying }: AllocationPolicy): number {
  return staying > 0 && told ? staying * told.reduce((n, city) => n + (city === noCity ? 0 : 1), 0) : 0
}

/** Distances between cities in km, `[from * cities + to]`. */
export function distances(cities: Instance['cities']): Uint16Array {
  const result = new Uint16Array(cities.length ** 2)
  cities.forEach((from, i) =>
    cities.forEach((to, k) => {
      result[i * cities.length + k] = i === k ? 0 : distanceKm(from, to)
    })
  )
  return result
}

/**
 * What everything costs under a policy. People keep their places. Cities closed to a person are left out of their options;
 * a city already told is one more option, cheaper by the weight on staying.
 */
export function optionTable(instance: Instance, policy: AllocationPolicy): OptionTable {
  const { cities, ids } = instance
  const { group, rows } = groupsOf(instance)
  const km = distances(cities)
  const fallback = new Int32Array(rows.length * cities.length)
  rows.forEach(({ home, class: of }, g) =>
    cities.forEach((_, k) => {
      fallback[g * cities.length + k] = isClosed(instance, of, k) ? closed : offListCost(policy, km[home * cities.length + k]!)
    })
  )
  return {
    people: ids.length,
    cities: cities.length,
    capacity: Int32Array.from(cities, c => c.capacity),
    accessible: Int32Array.from(cities, c => c.accessibleCapacity),
    ...ownOptions(instance, policy, fallback, group),
    needs: instance.needs,
    groups: rows.length,
    group,
    fallback,
    unseated: policy.unseated,
  }
}

function isClosed({ bars, cities }: Instance, of: number, city: number): boolean {
  return bars !== undefined && bars.closed[of * cities.length + city] === 1
}

/** People of one home and one class are a group. @throws RangeError when there are too many to count in 16 bits. */
export function groupsOf({ home, cities, bars, ids }: Instance): { group: Uint16Array, rows: { home: number, class: number }[] } {
  const classes = bars?.classes ?? 1
  const places = new Int32Array(cities.length * classes).fill(-1)
  const rows: { home: number, class: number }[] = []
  const group = new Uint16Array(ids.length)
  for (let person = 0; person < ids.length; person += 1) {
    const of = bars ? bars.classOf[person]! : 0
    const key = home[person]! * classes + of
    if (places[key] === -1) places[key] = rows.push({ home: home[person]!, class: of }) - 1
    if (rows.length > noCity) {
      throw new RangeError(`${rows.length} combinations of home city and restrictions are more than ${noCity}; let fewer restrictions depend on the home`)
    }
    group[person] = places[key]!
  }
  return { group, rows }
}

function ownOptions(
  instance: Instance,
  policy: AllocationPolicy,
  fallback: Int32Array,
  group: Uint16Array,
): Pick<OptionTable, 'slots' | 'city' | 'cost'> {
  const { choices, ids, bars, cities } = instance
  const told = policy.staying > 0 ? instance.told : undefined
  const slots = instance.slots + (told ? 1 : 0)
  const plain = !told && !bars
  const city = plain ? choices : new Uint16Array(ids.length * slots).fill(noCity)
  const cost = new Int32Array(ids.length * slots)
  const ofPlace = Int32Array.from({ length: instance.slots }, (_, place) => choiceCost(policy, place))
  if (plain) {
    for (let slot = 0; slot < cost.length; slot += instance.slots) cost.set(ofPlace, slot)
    return { slots, city, cost }
  }
  for (let person = 0; person < ids.length; person += 1) {
    const open = (k: number) => fallback[group[person]! * cities.length + k] !== closed
    let at = person * slots
    let stay = told && open(told[person]!) ? told[person]! : noCity
    const staying = stay === noCity ? 0 : fallback[group[person]! * cities.length + stay]! - policy.staying
    for (let place = 0; place < instance.slots; place += 1) {
      const k = choices[person * instance.slots + place]!
      if (k === noCity) break
      if (!open(k)) continue
      city[at] = k
      cost[at] = ofPlace[place]! - (k === stay ? policy.staying : 0)
      if (k === stay) stay = noCity
      at += 1
    }
    if (stay === noCity) continue
    city[at] = stay
    cost[at] = staying
  }
  return { slots, city, cost }
}
