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

export const noCity = 0xffff
/** Cost of a city that is not open. */
export const closed = 0x3fff_ffff
/** Bound on every cost, so that sums along a chain of moves stay exact in 32 bits. */
export const mostCost = 100_000_000

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
