import { noCity } from '../instance'
import { placedAnew, type Placed } from './parts'
import type { State } from './problem'
import { costOf } from './prices'

/** How many people are placed anew, all told, while parts trade seats: so many and this often everybody. */
const tradedPeople = 6_000_000
const tradedRounds = 20

/** A seat that a part would gain in a city: the sessions in which it is taken, and from whom. */
interface Offer {
  gains: number
  city: number
  from: { part: number, sessions: number[] }[]
  points: number
}

/**
 * Lets parts trade seats: where one more seat saves a part more than one seat less costs another that sits on it, or several others who sit
 * on one session each, they are placed with a seat less there, the first takes it, and the trade stands when all together cost less.
 */
export function trade(state: State, parts: Placed[], goOn: () => boolean): void {
  const market = new Market(state, parts)
  let left = tradedPeople + tradedRounds * state.table.people
  for (let isBetter = true; isBetter;) {
    isBetter = false
    for (const { gains, city } of market.offers()) {
      if (left <= 0 || !goOn()) return
      // What was traded since may have changed it.
      const offer = market.offerIn(gains, city)
      if (!offer) continue
      const { isTraded, people } = market.take(offer)
      left -= people
      isBetter ||= isTraded
    }
  }
}

class Market {
  private readonly losses: Float64Array[]
  /** People of each part and of each of its ways in each city, `[way * cities + city]`. */
  private readonly there: Int32Array[]

  constructor(private readonly state: State, private readonly parts: Placed[]) {
    this.losses = parts.map(part => part.losses())
    this.there = parts.map(part => this.counted(part))
  }

  private counted({ people, ways }: Placed): Int32Array {
    const { cityOf, seats, table } = this.state
    const counts = new Int32Array(ways.length * table.cities)
    for (const person of people) {
      const way = ways.indexOf(seats.wayOf[person]!)
      if (cityOf[person] !== noCity && way >= 0) counts[way * table.cities + cityOf[person]!]! += 1
    }
    return counts
  }

  /** Every seat that is worth more to a part than to those who have it, the most first. */
  offers(): Offer[] {
    const found = this.parts.flatMap((_, gains) =>
      Array.from({ length: this.state.table.cities }, (_, city) => this.offerIn(gains, city)).filter(offer => offer !== null)
    )
    return found.sort((a, b) => b.points - a.points || a.city - b.city || a.gains - b.gains)
  }

  /** The cheapest way to one more seat for a part in a city; null when it is not worth it. */
  offerIn(gains: number, city: number): Offer | null {
    const { sittings, seats } = this.state
    const part = this.parts[gains]!
    const worth = part.prices.seat[city]!
    if (worth <= 0) return null
    let best: Offer | null = null
    for (const w of part.ways) {
      const full = sittings.kinds[part.kind]!.ways[w]!.filter(s => seats.left[city * sittings.sessions.length + s]! < 1)
      const cheapest = full.length > 0 ? this.cheapestGivers(gains, city, full, worth) : null
      if (cheapest && cheapest.cost < worth && (best === null || worth - cheapest.cost > best.points)) {
        best = { gains, city, from: cheapest.from, points: worth - cheapest.cost }
      }
    }
    return best
  }

  /**
   * Who gives a seat in each of some sessions of a city at the least loss together, below a limit: the best of every set of sessions, built
   * from smaller ones.
   */
  private cheapestGivers(
    gains: number,
    city: number,
    full: readonly number[],
    limit: number,
  ): { from: Offer['from'], cost: number } | null {
    const { sittings, table } = this.state
    const all = 2 ** full.length - 1
    const best: ({ from: Offer['from'], cost: number } | undefined)[] = [{ from: [], cost: 0 }]
    const givers = this.parts.flatMap((part, at) =>
      at === gains || this.losses[at]![city]! >= limit ? [] : part.ways.flatMap((w, i) => {
        if (this.there[at]![i * table.cities + city]! < 1) return []
        const sessions = sittings.kinds[part.kind]!.ways[w]!
        const set = full.reduce((sum, s, bit) => sum + (sessions.includes(s) ? 2 ** bit : 0), 0)
        return set > 0 ? [{ part: at, set, cost: this.losses[at]![city]! }] : []
      })
    )
    for (let set = 0; set < all; set += 1) {
      const known = best[set]
      if (!known) continue
      for (const giver of givers) {
        const cost = known.cost + giver.cost
        const next = set | giver.set
        if (next === set || cost >= (best[next]?.cost ?? limit) || known.from.some(one => one.part === giver.part)) continue
        best[next] = {
          cost,
          from: [...known.from, { part: giver.part, sessions: full.filter((_, bit) => (giver.set & ~set & 2 ** bit) !== 0) }],
        }
      }
    }
    return best[all] ?? null
  }

  /** Trades, and keeps it when all together cost less; how many people were placed anew for it. */
  take({ gains, city, from }: Offer): { isTraded: boolean, people: number } {
    const { state, parts } = this
    const { table, ofKind, cityOf, seats } = state
    const kinds = new Set([gains, ...from.map(one => one.part)].map(at => parts[at]!.kind))
    const people = [...kinds].flatMap(kind => [...ofKind[kind]!])
    const kept = people.map(person => ({ city: cityOf[person]!, way: seats.wayOf[person]! }))
    const before = costOf(table, cityOf, people)
    for (const { part, sessions } of from) placedAnew(state, parts[part]!, { city, sessions })
    for (const { sessions } of from) for (const s of sessions) seats.keep(city, s, -1)
    const changed = [gains, ...from.map(one => one.part)].map(at => [at, placedAnew(state, parts[at]!)] as const)
    const isTraded = costOf(table, cityOf, people) < before
    if (isTraded) {
      for (const [at, part] of changed) {
        parts[at] = part
        this.losses[at] = part.losses()
        this.there[at] = this.counted(part)
      }
    } else {
      for (const person of people) seats.leave(cityOf[person]!, person)
      people.forEach((person, i) => {
        cityOf[person] = kept[i]!.city
        if (kept[i]!.city !== noCity) seats.sit(kept[i]!.city, person, kept[i]!.way)
      })
    }
    return { isTraded, people: people.length }
  }
}
