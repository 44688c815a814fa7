import { noCity, sessionOf, type Sittings } from '../instance'
import type { OptionTable } from '../option-table'
import type { Seats } from '../served-in-turn'

/** In place of a way: somebody has no seat. */
export const noWay = 0xff

/**
 * Seats that are left while people are placed one by one, and the way in which each sits. Of several ways the one of least price is taken,
 * then the first.
 */
export class SittingSeats implements Seats {
  readonly left: Int32Array
  readonly accessibleLeft: Int32Array
  readonly wayOf: Uint8Array
  readonly skipped: Uint16Array

  constructor(
    private readonly table: OptionTable,
    private readonly sittings: Sittings,
    private readonly price: (city: number, way: readonly number[]) => number = () => 0,
  ) {
    this.left = sittings.seats.slice()
    this.accessibleLeft = sittings.accessible.slice()
    this.wayOf = new Uint8Array(table.people).fill(noWay)
    this.skipped = new Uint16Array(2 * table.groups * sittings.kinds.length)
  }

  /** People of one row are barred from the same cities as soon as those are full. */
  rowOf(person: number): number {
    return (this.table.group[person]! * this.sittings.kinds.length + this.sittings.kindOf[person]!) * 2 + this.table.needs[person]!
  }

  ways(person: number): number[][] {
    return this.sittings.kinds[this.sittings.kindOf[person]!]!.ways
  }

  /** Of the ways that have a seat in each session the best; -1 when there is none. */
  wayIn(city: number, person: number, of?: readonly number[]): number {
    if (city === noCity) return -1
    const need = this.table.needs[person] === 1
    let [best, least] = [-1, Infinity]
    this.ways(person).forEach((way, w) => {
      if (of && !of.includes(w)) return
      if (
        way.some(s => this.left[this.at(city, s)]! < 1 || (need && this.accessibleLeft[this.at(city, sessionOf(this.sittings, s))]! < 1))
      ) return
      const price = this.price(city, way)
      if (price < least) [best, least] = [w, price]
    })
    return best
  }

  open(city: number, person: number): boolean {
    return this.wayIn(city, person) >= 0
  }

  /** @throws RangeError when there is no seat, which a placement within its limits cannot bring about. */
  take(city: number, person: number, of?: readonly number[]): number {
    if (city === noCity) return city
    const way = this.wayIn(city, person, of)
    if (way < 0) throw new RangeError(`city ${city} has no seats for person ${person} in the sessions of their papers`)
    this.sit(city, person, way)
    return city
  }

  sit(city: number, person: number, way: number): void {
    this.wayOf[person] = way
    this.move(city, person, -1)
  }

  /** Whether a session has so many seats left for somebody, and for their need. */
  hasRoom(city: number, session: number, person: number, seats: number): boolean {
    return this.left[this.at(city, session)]! >= seats
      && (this.table.needs[person] === 0 || this.accessibleLeft[this.at(city, sessionOf(this.sittings, session))]! >= seats)
  }

  /** Seats all of some people in a city, or none of them; whether there is room. */
  takeAll(city: number, people: ArrayLike<number>): boolean {
    for (let i = 0; i < people.length; i += 1) {
      const way = this.wayIn(city, people[i]!)
      if (way < 0) {
        for (let back = 0; back < i; back += 1) this.leave(city, people[back]!)
        return false
      }
      this.sit(city, people[i]!, way)
    }
    return true
  }

  /** Takes so many seats of a session out of what is left, for nobody yet; below 0 they are put back. */
  keep(city: number, session: number, seats: number): void {
    this.left[this.at(city, session)]! -= seats
  }

  /** Gives the seats of somebody back. */
  leave(city: number, person: number): void {
    if (city !== noCity) this.move(city, person, 1)
    this.wayOf[person] = noWay
  }

  private move(city: number, person: number, by: 1 | -1): void {
    for (const s of this.ways(person)[this.wayOf[person]!] ?? []) {
      this.left[this.at(city, s)]! += by
      if (this.table.needs[person] === 1) this.accessibleLeft[this.at(city, sessionOf(this.sittings, s))]! += by
    }
  }

  private at(city: number, session: number): number {
    return city * this.sittings.sessions.length + session
  }
}

/** The first limit that a placement breaks, in words; null when it keeps all. */
export function brokenSittings(table: OptionTable, sittings: Sittings, cityOf: Uint16Array, wayOf: Uint8Array): string | null {
  const seats = new SittingSeats(table, sittings)
  for (let person = 0; person < table.people; person += 1) {
    if (cityOf[person] === noCity) continue
    if (!seats.ways(person)[wayOf[person]!]) return `person ${person} sits in no way`
    seats.sit(cityOf[person]!, person, wayOf[person]!)
  }
  const parted = sittings.together?.find(members => members.some(person => cityOf[person] !== cityOf[members[0]!]))
  if (parted) return `people ${parted.join(', ')} are not together`
  const at = [...seats.left.keys()].find(i => seats.left[i]! < 0 || seats.accessibleLeft[i]! < 0)
  return at === undefined
    ? null
    : `city ${Math.floor(at / sittings.sessions.length)}, session ${at % sittings.sessions.length}: more people than seats`
}
