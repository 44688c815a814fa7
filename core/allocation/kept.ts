import type { Allocation } from './allocation'
import { inOrder, noCity, type Instance, type Sittings } from './instance'

/** Seats that are kept for a group of people: so many in each session of a city, and what becomes of those that none of theirs takes. */
export interface KeptSeats { title: string, seats: { city: string, seats: number }[], unused: 'open to all' | 'stay empty' }

/** Seats of a city in a session, or in a column of it. Of a column the accessible seats are those of its session. */
export interface SeatRow { city: string, session: string, seats: number, accessibleSeats: number }

/** The column of seats that a session keeps for a group. */
export const keptColumn = (session: string, group: number): string => `${session}+${group}`

/** The session of a column, and the group that it is kept for: null where it is open to all. */
export function partsOfColumn(column: string): { session: string, group: number | null } {
  const [session = '', group] = column.split('+', 2)
  return { session, group: group === undefined ? null : Number(group) }
}

/** The columns of all seats: the sessions, then of each group the sessions again. */
export const columnsOf = (sessions: readonly string[], groups: number): string[] =>
  [...sessions, ...Array.from({ length: groups }, (_, group) => sessions.map(session => keptColumn(session, group))).flat()]

/** More ways than this cannot be told apart in a placement. */
const mostWays = 254

/**
 * The ways through the columns for somebody of some groups, `held` with bit i set for group i: those on kept seats come first, as what is taken
 * first when people are served in turn. Several papers are all sat on seats kept for one group, or all on seats that are open to all.
 *
 * @param ways the ways through the sessions, by their places.
 */
export function waysWithKept(ways: readonly (readonly number[])[], sessions: number, groups: number, held: number): number[][] {
  const kept = Array.from({ length: groups }, (_, group) => held >> group & 1 ? ways.map(way => way.map(session => session + sessions * (group + 1))) : []).flat()
  return [...kept.slice(0, mostWays - ways.length), ...ways.map(way => [...way])]
}

/**
 * Sets kept seats apart from those that are open to all.
 *
 * @param free what is free by city and session.
 * @param taken the seats of a city and session that people of a group have already: so many less are kept.
 * @returns each session with the seats that are left for all, followed by the columns kept in it. No more are kept than there are.
 */
export function setApart(free: readonly SeatRow[], kept: readonly KeptSeats[], taken: (group: number, city: string, session: string) => number = () => 0): SeatRow[] {
  return free.flatMap((row) => {
    let left = row.seats
    const apart = kept.flatMap(({ seats }, group) => {
      const wanted = seats.reduce((n, one) => one.city === row.city ? n + one.seats : n, 0) - taken(group, row.city, row.session)
      const own = Math.max(0, Math.min(left, wanted))
      left -= own
      return own === 0 ? [] : [{ city: row.city, session: keptColumn(row.session, group), seats: own, accessibleSeats: 0 }]
    })
    return [{ ...row, seats: left }, ...apart]
  })
}

/** What people sit, for an instance: seats by city and column, in the instance's order of cities. */
export function sittingsOf({ cities, sessions }: { cities: readonly { id: string }[], sessions: readonly { id: string }[] }, kinds: Sittings['kinds'], free: readonly SeatRow[], groups: number): Omit<Sittings, 'kindOf'> {
  const columns = columnsOf(sessions.map(session => session.id), groups)
  const byPlace = new Map(free.map(row => [`${row.city}/${row.session}`, row]))
  const rows = inOrder(cities).flatMap(city => columns.map(column => byPlace.get(`${city.id}/${column}`)))
  return {
    sessions: columns, ...(groups > 0 && { within: Uint16Array.from(columns, (_, at) => at % sessions.length) }), kinds,
    seats: Int32Array.from(rows, row => row?.seats ?? 0), accessible: Int32Array.from(rows, row => row?.accessibleSeats ?? 0),
  }
}

/**
 * Opens to all what nobody of theirs takes of the seats that are to be opened then. A kept seat counts as taken for each of its people who sit in
 * the session, on whichever seat: so no group can come to have less than it was given.
 *
 * @returns the seats anew, or null when there is nothing to open.
 */
export function withUnusedOpened(instance: Instance, placed: Allocation, free: readonly SeatRow[], kept: readonly KeptSeats[]): SeatRow[] | null {
  const unused = unusedSeats(instance, placed, free)
  const opens = ({ city, session }: SeatRow) => {
    const { group } = partsOfColumn(session)
    return group !== null && kept[group]?.unused === 'open to all' ? unused.get(`${city}/${session}`) ?? 0 : 0
  }
  const opened = new Map<string, number>()
  for (const row of free) {
    const open = `${row.city}/${partsOfColumn(row.session).session}`
    opened.set(open, (opened.get(open) ?? 0) + opens(row))
  }
  if ([...opened.values()].every(n => n === 0)) return null
  return free.map(row => ({ ...row, seats: row.seats - opens(row) + (partsOfColumn(row.session).group === null ? opened.get(`${row.city}/${row.session}`) ?? 0 : 0) }))
}

/** Kept seats that nobody of theirs wants, by city and column: those who sit on seats open to all in the same session are counted against them. */
function unusedSeats({ cities, sittings }: Instance, { cityOf, sittings: outcome }: Allocation, free: readonly SeatRow[]): Map<string, number> {
  const left = new Map(free.flatMap(row => partsOfColumn(row.session).group === null ? [] : [[`${row.city}/${row.session}`, row.seats]]))
  if (!sittings || !outcome) return left
  const take = (key: string) => {
    const seats = left.get(key) ?? 0
    if (seats > 0) left.set(key, seats - 1)
    return seats > 0
  }
  const groupsOf = sittings.kinds.map(({ ways }) => [...new Set(ways.flat().map(column => partsOfColumn(sittings.sessions[column]!).group))].filter(group => group !== null))
  // Who sits on a kept seat takes that one; only then is it known what those on the other seats may be counted against.
  for (const onKept of [true, false]) {
    cityOf.forEach((city, person) => {
      const kind = sittings.kindOf[person]!
      if (city === noCity || groupsOf[kind]!.length === 0) return
      for (const column of sittings.kinds[kind]!.ways[outcome.wayOf[person]!] ?? []) {
        const { session, group } = partsOfColumn(sittings.sessions[column]!)
        if ((group !== null) !== onKept) continue
        const columns = onKept ? [sittings.sessions[column]!] : groupsOf[kind]!.map(of => keptColumn(session, of))
        columns.some(own => take(`${cities[city]!.id}/${own}`))
      }
    })
  }
  return left
}

/** Seats that a run kept for a group, over the sessions of a city, and those of them that were opened to all. */
export interface KeptOfRun { title: string, cities: { city: string, kept: number, opened: number }[] }

/** What was kept for whom in a run, by the seats before and after what nobody took was opened. */
export function keptOf(kept: readonly KeptSeats[], before: readonly SeatRow[], after: readonly SeatRow[]): KeptOfRun[] {
  const seatsOf = (rows: readonly SeatRow[], group: number, city: string) => rows.reduce((n, row) => row.city === city && partsOfColumn(row.session).group === group ? n + row.seats : n, 0)
  return kept.map(({ title, seats }, group) => ({
    title, cities: [...new Set(seats.map(row => row.city))].map((city) => {
      const all = seatsOf(before, group, city)
      return { city, kept: all, opened: all - seatsOf(after, group, city) }
    }),
  }))
}
