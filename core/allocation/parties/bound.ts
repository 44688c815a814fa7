import type { PartyModel } from './model'

/** A proven lower bound with the prices that prove it, a price for each limit. */
export interface PartyBound { bound: number, prices: Float64Array }

/**
 * No placement costs less than this: limits are given prices of 0 or more, everyone takes what is cheapest with them, and the value
 * of all seats is taken off (Lagrangian relaxation; Fisher, "The Lagrangian relaxation method for solving integer programming
 * problems", Management Science 27, 1981; from memory). Prices follow the subgradient with Polyak's step towards a known cost, the
 * direction smoothed over steps, halved when the bound has stood still. Costs are whole, so the bound is rounded up.
 *
 * @param upper cost of a placement that is known.
 */
export function partyBound(model: PartyModel, upper: number, steps = 400, start?: Float64Array): PartyBound {
  const prices = start?.slice() ?? new Float64Array(model.limits.length)
  const direction = new Float64Array(model.limits.length)
  const best: PartyBound = { bound: -Infinity, prices: prices.slice() }
  let scale = 1
  let still = 0
  for (let step = 0; step < steps && Math.ceil(best.bound - 1e-6) < upper; step += 1) {
    const { value, excess } = relaxed(model, prices)
    if (value > best.bound + 1e-9) {
      still = value > best.bound + 1e-4 * Math.abs(value) ? 0 : still + 1
      best.bound = value
      best.prices = prices.slice()
    } else {
      still += 1
    }
    if (still > 12) {
      still = 0
      scale /= 2
      prices.set(best.prices)
      direction.fill(0)
    }
    let norm = 0
    excess.forEach((e, i) => {
      // What is cheap already and not wanted cannot get cheaper: it does not count for the length of the step.
      const along = prices[i] === 0 && e < 0 ? 0 : e
      direction[i] = 0.3 * direction[i]! + along
      norm += direction[i]! ** 2
    })
    if (norm === 0) break
    const length = scale * Math.max(1, upper - value) / norm
    for (let i = 0; i < prices.length; i += 1) prices[i] = Math.max(0, prices[i]! + length * direction[i]!)
  }
  return { bound: Math.ceil(best.bound - 1e-6), prices: best.prices }
}

/** Cheapest way of a member in a city at some prices. */
export function cheapestWay(ways: readonly { uses: number[] }[], prices: Float64Array): { sum: number, at: number } {
  let [sum, at] = [Infinity, -1]
  ways.forEach((way, i) => {
    let price = 0
    for (const limit of way.uses) price += prices[limit]!
    if (price < sum) [sum, at] = [price, i]
  })
  return { sum, at }
}

function relaxed({ parties, cities, limits, unseated }: PartyModel, prices: Float64Array): { value: number, excess: Float64Array } {
  const excess = Float64Array.from(limits, seats => -seats)
  let value = 0
  // Ways are shared between people alike: each list is priced once.
  const priced = new Map<unknown, { sum: number, at: number }[]>()
  for (const party of parties) {
    const members = party.ways.map((ways) => {
      const found = priced.get(ways) ?? ways.map(ofCity => cheapestWay(ofCity, prices))
      priced.set(ways, found)
      return found
    })
    let [least, city] = [unseated * party.members.length, -1]
    for (let k = 0; k < cities; k += 1) {
      let sum = party.cost[k]!
      if (sum >= least) continue
      for (const member of members) sum += member[k]!.sum
      if (sum < least) [least, city] = [sum, k]
    }
    value += least
    if (city >= 0) members.forEach((member, m) => party.ways[m]![city]![member[city]!.at]!.uses.forEach((limit) => { excess[limit]! += 1 }))
  }
  limits.forEach((seats, i) => { value -= seats * prices[i]! })
  return { value, excess }
}
