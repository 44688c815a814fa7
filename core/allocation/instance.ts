/** In place of a city: there is none. */
export const noCity = 0xffff

/** People who sit the same test papers; each way gives the session of each paper, by its place. Without a way nobody can sit them. */
export interface SittingKind {
  papers: string[]
  ways: number[][]
}

/**
 * What people sit, in cycles with test papers: each person every paper of their kind, in sessions that do not collide, all in one city.
 * Seats stand by city and session, `[city * sessions + session]`; everybody counts against `seats`, those in need also against
 * `accessible`. Seats of a session that are kept for some are a session of their own, which only ways of those people lead through:
 * `within` tells of each the session that it is part of, whose accessible seats it shares; absent when none are kept. `together` are people
 * who sit in one city or not at all.
 */
export interface Sittings {
  sessions: string[]
  within?: Uint16Array
  seats: Int32Array
  accessible: Int32Array
  kinds: SittingKind[]
  kindOf: Uint16Array
  together?: Uint32Array[]
}

/** The session whose accessible seats a column of seats shares. */
export const sessionOf = ({ within }: Sittings, column: number): number => within ? within[column]! : column

/** A test city and its seats; degrees; everybody there counts against `capacity`, those in need also against `accessibleCapacity`. */
export interface AllocationCity {
  id: string
  lat: number
  lon: number
  capacity: number
  accessibleCapacity: number
}

/**
 * Who wants to sit where, in columns: a million people are a few arrays. Cities are named by their place in `cities`.
 * Cities and people stand in the order of their ids (shorter ids first, then by character), whatever order they came in.
 */
export interface Instance {
  cities: AllocationCity[]
  ids: string[]
  /** City nearest to home; distances are measured from it. */
  home: Uint16Array
  /** Room for choices a person; the lists stand one after the other, filled up with `noCity`. */
  slots: number
  choices: Uint16Array
  /** 1 for people who need an accessible seat. */
  needs: Uint8Array
  /** What first come goes by, smallest first: milliseconds of an instant, or the row of a file that tells no instants. */
  turn: Float64Array
  turnIs: 'instant' | 'row'
  /** The city a person has been told already, `noCity` for none; absent when nobody was told. */
  told?: Uint16Array
  /** Cities closed to some people; absent when every city is open to all. */
  bars?: Bars
  /** What people sit, in cycles with test papers. The capacity of a city is then that of all its sessions together. */
  sittings?: Sittings
}

/** Cities closed to classes of people: `closed[class * cities + city]` is 1 where a class may not sit. */
export interface Bars {
  classOf: Uint16Array
  classes: number
  closed: Uint8Array
}

export const byId = (a: string, b: string) => a.length - b.length || (a < b ? -1 : a > b ? 1 : 0)

/** The order of cities, and the same for any others with ids. */
export const inOrder = <T extends { id: string }>(rows: readonly T[]): T[] => [...rows].sort((a, b) => byId(a.id, b.id))

/** Faults of the cities alone, each naming the city. */
export function cityFaults(city: AllocationCity): string[] {
  const { id, lat, lon, capacity, accessibleCapacity } = city
  const faults: string[] = []
  if (id === '') faults.push('a city has no id')
  if (!(Math.abs(lat) <= 90)) faults.push(`city ${id}: latitude ${lat} is not from -90 to 90`)
  if (!(Math.abs(lon) <= 180)) faults.push(`city ${id}: longitude ${lon} is not from -180 to 180`)
  const count = (name: string, value: number) => {
    if (!Number.isInteger(value) || value < 0 || value > 100_000_000) {
      faults.push(`city ${id}: ${name} ${value} is not a whole number from 0 to 100000000`)
    }
  }
  count('capacity', capacity)
  count('accessible capacity', accessibleCapacity)
  if (capacity >= 0 && accessibleCapacity > capacity) {
    faults.push(`city ${id}: ${accessibleCapacity} accessible seats are more than all its ${capacity} seats`)
  }
  return faults
}

/** One person as they come in; `choices` by place in the builder's `cities`. */
export interface Person {
  id: string
  home: number
  choices: readonly number[]
  needs: boolean
  turn: number
  told?: number
  class?: number
  /** Among the kinds of the sittings. */
  kind?: number
  /** Number of those who are kept together with this person. */
  party?: number
}

/** Gathers people one by one into an instance. The caller has checked ids and lists. */
export class InstanceBuilder {
  readonly cities: AllocationCity[]
  private readonly cityPlaces: Map<string, number>
  private readonly ids: string[] = []
  private size = 1024
  private home = new Uint16Array(this.size)
  private choices: Uint16Array
  private needs = new Uint8Array(this.size)
  private turn = new Float64Array(this.size)
  private told: Uint16Array | undefined
  private classOf: Uint16Array | undefined
  private kindOf: Uint16Array | undefined
  private readonly parties = new Map<number, number[]>()

  constructor(cities: readonly AllocationCity[], readonly slots: number, private readonly turnIs: Instance['turnIs']) {
    this.cities = inOrder(cities)
    this.cityPlaces = new Map(this.cities.map((city, k) => [city.id, k]))
    this.choices = new Uint16Array(this.size * slots).fill(noCity)
  }

  /** Place of a city in `cities`; undefined for an id that is not there. */
  cityAt(id: string): number | undefined {
    return this.cityPlaces.get(id)
  }

  add(person: Person): void {
    const at = this.ids.push(person.id) - 1
    if (at === this.size) this.grow()
    this.home[at] = person.home
    const { choices } = person
    for (let i = 0; i < choices.length; i += 1) this.choices[at * this.slots + i] = choices[i]!
    this.needs[at] = person.needs ? 1 : 0
    this.turn[at] = person.turn
    if (person.told !== undefined) (this.told ??= new Uint16Array(this.size).fill(noCity))[at] = person.told
    if (person.class !== undefined) (this.classOf ??= new Uint16Array(this.size))[at] = person.class
    if (person.party !== undefined) this.parties.set(person.party, [...this.parties.get(person.party) ?? [], at])
    if (person.kind !== undefined) (this.kindOf ??= new Uint16Array(this.size))[at] = person.kind
  }

  /**
   * The instance in its order, with what is closed to whom, by class and the builder's `cities`, and with what people sit, by kind; the
   * builder is used up.
   */
  build(bars?: Omit<Bars, 'classOf'>, sittings?: Omit<Sittings, 'kindOf' | 'together'>): Instance {
    const { ids, slots, turnIs } = this
    const order = orderOfIds(ids)
    const people = ids.length
    const sorted = <T extends Uint16Array | Uint8Array | Float64Array>(values: T, width = 1): T => {
      const kept = values.subarray(0, people * width) as T
      if (!order) return kept
      const result = kept.slice() as T
      for (let i = 0; i < people; i += 1) {
        for (let j = 0; j < width; j += 1) result[i * width + j] = kept[order[i]! * width + j]!
      }
      return result
    }
    return {
      cities: this.cities,
      ids: order ? Array.from(order, i => ids[i]!) : ids,
      home: sorted(this.home),
      slots,
      choices: sorted(this.choices, slots),
      needs: sorted(this.needs),
      turn: sorted(this.turn),
      turnIs,
      ...(this.told && { told: sorted(this.told) }),
      ...(bars && { bars: { ...bars, classOf: sorted(this.classOf ?? new Uint16Array(this.size)) } }),
      ...(sittings
        && {
          sittings: {
            ...sittings,
            kindOf: sorted(this.kindOf ?? new Uint16Array(this.size)),
            ...(this.parties.size > 0 && { together: this.together(order) }),
          },
        }),
    }
  }

  /** Who is kept together, by the places after sorting, in their order; nobody is with themself alone. */
  private together(order: Uint32Array | null): Uint32Array[] {
    const places = order && new Uint32Array(order.length)
    order?.forEach((from, to) => {
      places![from] = to
    })
    return [...this.parties.values()].filter(members => members.length > 1).map(members =>
      Uint32Array.from(members, at => places ? places[at]! : at).sort()
    ).sort((a, b) => a[0]! - b[0]!)
  }

  private grow(): void {
    const size = this.size * 2
    const wider = <T extends Uint16Array | Uint8Array | Float64Array>(values: T, to: T): T => {
      to.set(values)
      return to
    }
    this.home = wider(this.home, new Uint16Array(size))
    this.choices = wider(this.choices, new Uint16Array(size * this.slots).fill(noCity))
    this.needs = wider(this.needs, new Uint8Array(size))
    this.turn = wider(this.turn, new Float64Array(size))
    if (this.told) this.told = wider(this.told, new Uint16Array(size).fill(noCity))
    if (this.classOf) this.classOf = wider(this.classOf, new Uint16Array(size))
    if (this.kindOf) this.kindOf = wider(this.kindOf, new Uint16Array(size))
    this.size = size
  }
}

/** The order of ids as places; null when they stand in it already, as they do in most files. */
function orderOfIds(ids: readonly string[]): Uint32Array | null {
  if (ids.every((id, i) => i === 0 || byId(ids[i - 1]!, id) <= 0)) return null
  return Uint32Array.from(ids.keys()).sort((a, b) => byId(ids[a]!, ids[b]!))
}
