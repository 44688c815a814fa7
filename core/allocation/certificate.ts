import { noCity } from './instance'
import type { OptionTable } from './option-table'

/** What a seat of a city is worth, and how much more an accessible one is, in points of cost; 0 or more. */
export interface Prices {
  seat: Float64Array
  accessibleSeat: Float64Array
}

/**
 * The proven lower bound: for any prices of 0 or more, the sum over people of their least (cost + price), less the value of
 * all seats. No placement within the limits can cost less (weak duality of linear programming; Ahuja, Magnanti, Orlin,
 * "Network Flows", 1993, chapter 9; from memory). Found from the prices and the input alone, whatever found them.
 */
export function lowerBound(table: OptionTable, prices: Prices): number {
  const { cities, slots } = table
  const withNeed = prices.seat.map((price, k) => price + prices.accessibleSeat[k]!)
  const ordinary = cheapestFallback(table, prices.seat)
  const inNeed = cheapestFallback(table, withNeed)
  let bound = 0
  for (let person = 0; person < table.people; person += 1) {
    const need = table.needs[person] === 1
    const price = need ? withNeed : prices.seat
    let least = (need ? inNeed : ordinary)[table.group[person]!]!
    const from = person * slots
    for (let slot = from; slot < from + slots; slot += 1) {
      const city = table.city[slot]!
      if (city === noCity) break
      const sum = table.cost[slot]! + price[city]!
      if (sum < least) least = sum
    }
    bound += least
  }
  for (let k = 0; k < cities; k += 1) bound -= table.capacity[k]! * prices.seat[k]! + table.accessible[k]! * prices.accessibleSeat[k]!
  return bound
}

/** For each group the least of any city's cost with its price, or of no seat. */
function cheapestFallback({ cities, groups, fallback, unseated }: OptionTable, price: Float64Array): Float64Array {
  const least = new Float64Array(groups).fill(unseated)
  for (let group = 0; group < groups; group += 1) {
    for (let k = 0; k < cities; k += 1) {
      const sum = fallback[group * cities + k]! + price[k]!
      if (sum < least[group]!) least[group] = sum
    }
  }
  return least
}

/** The first limit that a placement breaks, in words; null when it keeps all. */
export function brokenLimit(table: OptionTable, cityOf: Uint16Array): string | null {
  const all = new Int32Array(table.cities)
  const inNeed = new Int32Array(table.cities)
  for (let person = 0; person < table.people; person += 1) {
    const city = cityOf[person]!
    if (city === noCity) continue
    all[city]! += 1
    if (table.needs[person] === 1) inNeed[city]! += 1
  }
  for (let k = 0; k < table.cities; k += 1) {
    if (all[k]! > table.capacity[k]!) return `city ${k}: ${all[k]} people on ${table.capacity[k]} seats`
    if (inNeed[k]! > table.accessible[k]!) return `city ${k}: ${inNeed[k]} people in need on ${table.accessible[k]} accessible seats`
  }
  return null
}
