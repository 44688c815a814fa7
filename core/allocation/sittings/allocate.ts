import type { Allocation, SittingOutcome } from '../allocation'
import { fairAmongEquals } from '../fair-among-equals'
import { noCity, type Instance, type Sittings } from '../instance'
import { isOpenToAll } from '../kept'
import { linesOf, placesInOrder } from '../lines'
import { putBackForStaying, totalCost, type OptionTable } from '../option-table'
import type { AllocationPolicy } from '../policy'
import { serveInTurn } from '../served-in-turn'
import { arrivalOrder, lotteryOrder } from '../turn'
import { partsOf, partTable, peopleOf, roomFor, sitDown, type Part } from './parts'
import { solveSittings, type Effort, type WatchSittings } from './place'
import { noPrices, type SittingPrices } from './prices'
import { brokenSittings, noWay, SittingSeats } from './seats'

/**
 * Places everyone of a cycle with test papers by a policy: the papers of a person in sessions that do not collide, all in one city. Served
 * in turn, people get what the policy gives them; served together, nothing cheaper is known, and the bound tells how much cheaper it might
 * be.
 */
export function allocateSittings(
  instance: Instance,
  sittings: Sittings,
  table: OptionTable,
  policy: AllocationPolicy,
  watch: WatchSittings,
  effort: Effort,
): Allocation {
  if (sittings.together && policy.kind !== 'best-fit') throw new RangeError('only the best fit keeps people together')
  const best = solveSittings(table, sittings, watch, effort)
  const { ofKind } = best
  const order = policy.kind === 'best-fit' ? null : policy.kind === 'lottery' ? lotteryOrder(instance, policy.seed) : arrivalOrder(instance)
  const seats = order ? new SittingSeats(table, sittings) : best.seats
  const cityOf = order
    ? serveInTurn(
      instance,
      table,
      order,
      policy.staying > 0,
      seats,
      (done, total) => watch(done, total, { cost: Infinity, bound: best.bound }) !== false,
    )
    : best.cityOf
  const parts = order ? partsOf(sittings).map(part => partAsItIs(table, sittings, part, ofKind, cityOf, seats)) : best.parts
  if (!order) { for (const part of parts) shareFairly(instance, table, ofKind, part, cityOf, seats) }
  // Sharing may seat somebody in place of somebody else who sits the same: only now is it known who belongs where.
  for (const part of parts) part.people = peopleOf(ofKind[part.kind]!, part.ways, seats)
  const putBack = putBackForStaying(instance, policy)
  const [cost, bound] = [totalCost(table, cityOf) + putBack, best.bound + putBack]
  const isBroken = brokenSittings(table, sittings, cityOf, seats.wayOf) !== null || cost < bound
  return {
    cityOf,
    cost,
    bound,
    order,
    prices: cityPrices(table, sittings, best.prices),
    standing: isBroken ? 'not certified' : cost === bound ? 'certified' : order ? 'by policy' : 'bounded',
    sittings: outcomeOf(instance, sittings, policy, parts, cityOf, seats.wayOf, order && placesInOrder(order)),
  }
}

/** A part of a placement that is made, with what is left for it when the others stay. */
function partAsItIs(
  table: OptionTable,
  sittings: Sittings,
  { kind, ways }: Pick<Part, 'kind' | 'ways'>,
  ofKind: readonly Uint32Array[],
  cityOf: Uint16Array,
  seats: SittingSeats,
): Part {
  const people = peopleOf(ofKind[kind]!, ways, seats)
  const had = people.map(person => seats.wayOf[person]!)
  for (const person of people) seats.leave(cityOf[person]!, person)
  const room = roomFor(table, sittings, seats, kind, ways)
  people.forEach((person, i) => {
    if (cityOf[person] !== noCity) seats.sit(cityOf[person]!, person, had[i]!)
  })
  return { kind, ways, people, ...room, prices: noPrices(table.cities) }
}

/** Among people of one part who are equal the better places go to those who came first. */
function shareFairly(
  { turn, turnIs }: Instance,
  table: OptionTable,
  ofKind: readonly Uint32Array[],
  { kind, ways, capacity, accessible }: Part,
  cityOf: Uint16Array,
  seats: SittingSeats,
): void {
  const people = peopleOf(ofKind[kind]!, ways, seats)
  const own = Uint16Array.from(people, person => cityOf[person]!)
  for (const person of people) seats.leave(cityOf[person]!, person)
  const earlier = (a: number, b: number) => people[a]! - people[b]!
  fairAmongEquals(
    partTable(table, people, capacity, accessible),
    own,
    turnIs === 'instant' ? (a, b) => turn[people[a]!]! - turn[people[b]!]! || earlier(a, b) : earlier,
  )
  people.forEach((person, i) => {
    cityOf[person] = own[i]!
  })
  sitDown(table, seats, cityOf, people, ways)
}

/** What one more seat that is open to all would save in each session of a city, by the prices that prove the bound. */
function cityPrices({ cities }: OptionTable, sittings: Sittings, prices: SittingPrices): Allocation['prices'] {
  const columns = sittings.sessions.length
  const sum = (price: Float64Array) =>
    Float64Array.from(
      { length: cities },
      (_, k) =>
        Math.round(price.subarray(k * columns, (k + 1) * columns).reduce((all, one, s) => isOpenToAll(sittings, s) ? all + one : all, 0)),
    )
  return { seat: sum(prices.seat), accessibleSeat: sum(prices.accessibleSeat) }
}

function outcomeOf(
  instance: Instance,
  sittings: Sittings,
  policy: AllocationPolicy,
  parts: readonly Part[],
  cityOf: Uint16Array,
  wayOf: Uint8Array,
  places: Uint32Array | null,
): SittingOutcome {
  const partOf = new Uint16Array(cityOf.length)
  // Whoever has no seat is told of by the first part of their kind; the others overwrite it.
  for (let at = parts.length - 1; at >= 0; at -= 1) {
    for (const person of parts[at]!.people) if (wayOf[person] === noWay || parts[at]!.ways.includes(wayOf[person]!)) partOf[person] = at
  }
  return {
    wayOf,
    partOf,
    parts: parts.map(({ kind, ways, people, capacity, accessible, prices }) => {
      const sat = {
        kind,
        papers: sittings.kinds[kind]!.papers,
        ways: ways.map(w => sittings.kinds[kind]!.ways[w]!.map(s => sittings.sessions[s]!)),
      }
      // Of ways that nobody sits in, or could, nothing has to be told.
      if (people.length === 0) return { ...sat, cities: [], prices: { seat: [], accessibleSeat: [] }, lines: [], placed: [] }
      const own = Uint16Array.from(people, person => cityOf[person]!)
      const part = partInstance(instance, people, capacity, accessible)
      const placed = Array.from(capacity, () => ({ all: 0, inNeed: 0 }))
      own.forEach((city, i) => {
        if (city === noCity) return
        placed[city]!.all += 1
        placed[city]!.inNeed += part.needs[i]!
      })
      return {
        ...sat,
        cities: part.cities,
        prices: { seat: [...prices.seat], accessibleSeat: [...prices.accessibleSeat] },
        placed,
        lines: linesOf(part, policy, { cityOf: own, prices, order: places }, places && Uint32Array.from(people, person => places[person]!)),
      }
    }),
  }
}

/** Some people of an instance, with the seats that are there for them. */
function partInstance(
  { cities, ids, home, slots, choices, needs, turn, turnIs, told, bars }: Instance,
  people: Uint32Array,
  capacity: Int32Array,
  accessible: Int32Array,
): Instance {
  const own = new Uint16Array(people.length * slots)
  people.forEach((person, i) => own.set(choices.subarray(person * slots, (person + 1) * slots), i * slots))
  return {
    cities: cities.map((city, k) => ({ ...city, capacity: capacity[k]!, accessibleCapacity: accessible[k]! })),
    ids: Array.from(people, person => ids[person]!),
    home: Uint16Array.from(people, person => home[person]!),
    slots,
    choices: own,
    needs: Uint8Array.from(people, person => needs[person]!),
    turn: Float64Array.from(people, person => turn[person]!),
    turnIs,
    ...(told && { told: Uint16Array.from(people, person => told[person]!) }),
    ...(bars && { bars: { ...bars, classOf: Uint16Array.from(people, person => bars.classOf[person]!) } }),
  }
}
