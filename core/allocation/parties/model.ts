import { choiceCost, distanceKm, offListCost, type Costs } from '../policy'

/**
 * Cycles in which one person sits several papers, in different sessions and all in one city; in which people are kept together;
 * in which seats are reserved, cities closed to papers, or people promised a city near home. No longer a pure flow: this is a
 * multi-dimensional assignment, for which we give a placement, a proven lower bound, and the gap between the two.
 */
export interface PartyInstance {
  cities: { id: string, lat: number, lon: number }[]
  sessions: string[]
  /** Pairs of sessions that nobody can sit both of, besides each with itself; by place. */
  collisions: [number, number][]
  /** Seats of each city and session, `[city * sessions + session]`, and those of them that are accessible. */
  capacity: Int32Array
  accessible: Int32Array
  /** Seats kept for people who sit a paper or bear a tag: part of the capacity, closed to everybody else. */
  reserved: { city: number, session: number, for: string, seats: number }[]
  papers: { id: string, sessions: number[], closedCities: number[] }[]
  /** People with this tag are placed within so many km of home, or not at all. */
  nearHome: { tag: string, km: number }[]
  people: PartyPerson[]
}

export interface PartyPerson { id: string, home: number, choices: number[], needs: boolean, papers: number[], tags: string[], party: string | null }

/** One way for a person to sit all papers in a city: the session of each paper, and the limits that it draws on. */
export interface Way { sessions: number[], uses: number[] }

/** Members of a party sit in one city, each in a way of their own. `cost` is `Infinity` where somebody may not sit. */
export interface Party { members: number[], cost: Float64Array, ways: Way[][][] }

/** The instance as limits and parties. `limits` are the seats of each kind in each city and session. */
export interface PartyModel { cities: number, limits: Int32Array, parties: Party[], unseated: number }

/** Where each party is: a city, -1 for none, and the way of each member. */
export interface PartyPlacement { city: Int32Array, ways: Way[][] }

/** Faults of an instance, naming what is wrong; empty when it can be worked on. */
export function partyFaults({ cities, sessions, capacity, accessible, reserved, papers, people }: PartyInstance): string[] {
  const faults: string[] = []
  const place = (city: number, session: number) => `${cities[city]?.id ?? '?'}, ${sessions[session] ?? '?'}`
  capacity.forEach((seats, i) => {
    const where = place(Math.floor(i / sessions.length), i % sessions.length)
    if (seats < 0) faults.push(`${where}: ${seats} seats are fewer than none`)
    if (accessible[i]! > seats) faults.push(`${where}: ${accessible[i]} accessible seats are more than all ${seats}`)
    const kept = reserved.filter(r => r.city * sessions.length + r.session === i).reduce((sum, r) => sum + r.seats, 0)
    if (kept > seats) faults.push(`${where}: ${kept} reserved seats are more than all ${seats}`)
  })
  for (const paper of papers) if (paper.sessions.length === 0) faults.push(`paper ${paper.id} is held in no session`)
  for (const person of people) {
    if (person.papers.length === 0) faults.push(`candidate ${person.id} sits no paper`)
    if (new Set(person.papers).size < person.papers.length) faults.push(`candidate ${person.id} sits a paper twice`)
  }
  return faults
}

/** Works out limits, parties and every way to sit. @throws RangeError with every fault. */
export function partyModel(instance: PartyInstance, costs: Costs): PartyModel {
  const faults = partyFaults(instance)
  if (faults.length > 0) throw new RangeError(faults.slice(0, 50).join('; '))
  const limits = limitsOf(instance)
  const known = new Map<string, Way[][]>()
  const waysOf = (person: PartyPerson): Way[][] => {
    const key = JSON.stringify([person.papers, [...person.tags].sort(), person.needs])
    const found = known.get(key) ?? instance.cities.map((_, city) => waysIn(instance, limits, person, city))
    known.set(key, found)
    return found
  }
  const groups = new Map<string, number[]>()
  instance.people.forEach((person, i) => {
    const key = person.party === null ? `alone ${i}` : `party ${person.party}`
    groups.set(key, [...groups.get(key) ?? [], i])
  })
  const parties = [...groups.values()].map((members): Party => {
    const ways = members.map(i => waysOf(instance.people[i]!))
    const cost = Float64Array.from(instance.cities, (_, city) => members.reduce((sum, i, m) => sum + (ways[m]![city]!.length === 0 ? Infinity : costIn(instance, costs, instance.people[i]!, city)), 0))
    return { members, cost, ways }
  })
  return { cities: instance.cities.length, limits: limits.seats, parties, unseated: costs.unseated }
}

function costIn({ cities, nearHome }: PartyInstance, costs: Costs, person: PartyPerson, city: number): number {
  const km = distanceKm(cities[person.home]!, cities[city]!)
  if (nearHome.some(promise => person.tags.includes(promise.tag) && km > promise.km)) return Infinity
  const place = person.choices.indexOf(city)
  return place >= 0 ? choiceCost(costs, place) : offListCost(costs, km)
}

interface Limits { seats: Int32Array, open: (city: number, session: number) => number, accessible: (city: number, session: number) => number, reserved: { at: number, city: number, session: number, for: string }[] }

/** Every city and session has open seats, accessible ones, and those reserved for somebody. */
function limitsOf({ cities, sessions, capacity, accessible, reserved }: PartyInstance): Limits {
  const size = cities.length * sessions.length
  const seats = new Int32Array(2 * size + reserved.length)
  seats.set(capacity)
  seats.set(accessible, size)
  reserved.forEach((r, i) => {
    seats[2 * size + i] = r.seats
    seats[r.city * sessions.length + r.session]! -= r.seats
  })
  return {
    seats, open: (city, session) => city * sessions.length + session, accessible: (city, session) => size + city * sessions.length + session,
    reserved: reserved.map((r, i) => ({ at: 2 * size + i, city: r.city, session: r.session, for: r.for })),
  }
}

/** All ways of a person to sit every paper in a city without a collision. */
function waysIn(instance: PartyInstance, limits: Limits, person: PartyPerson, city: number): Way[] {
  const { papers, collisions } = instance
  const collide = (a: number, b: number) => a === b || collisions.some(([x, y]) => (x === a && y === b) || (x === b && y === a))
  let ways: Way[] = [{ sessions: [], uses: [] }]
  for (const at of person.papers) {
    const paper = papers[at]!
    if (paper.closedCities.includes(city)) return []
    ways = ways.flatMap(way => paper.sessions.filter(session => !way.sessions.some(other => collide(session, other))).flatMap((session) => {
      const kinds = [limits.open(city, session), ...limits.reserved.filter(r => r.city === city && r.session === session && (r.for === paper.id || person.tags.includes(r.for))).map(r => r.at)]
      const need = person.needs ? [limits.accessible(city, session)] : []
      return kinds.map(kind => ({ sessions: [...way.sessions, session], uses: [...way.uses, kind, ...need] }))
    }))
  }
  return ways
}

/** Cost of a placement in points. */
export function placementCost({ parties, unseated }: PartyModel, { city }: PartyPlacement): number {
  return parties.reduce((sum, party, i) => sum + (city[i]! < 0 ? unseated * party.members.length : party.cost[city[i]!]!), 0)
}

/** The limits that a placement draws on too much; none when it keeps all. */
export function brokenLimits({ limits }: PartyModel, { city, ways }: PartyPlacement): number[] {
  const used = new Int32Array(limits.length)
  ways.forEach((members, i) => {
    if (city[i]! >= 0) for (const way of members) for (const limit of way.uses) used[limit]! += 1
  })
  return [...used.keys()].filter(limit => used[limit]! > limits[limit]!)
}
