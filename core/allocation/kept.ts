import type { Allocation } from './allocation'
import { inOrder, noCity, sessionOf, type Instance, type Sittings } from './instance'

/** Seats that are kept for a group of people: so many in each session of a city, and what becomes of those that none of theirs takes. */
export interface KeptSeats {
  title: string
  seats: { city: string, seats: number }[]
  unused: 'open to all' | 'stay empty'
}

/** Seats of a city in a session, or in a column of it. */
export interface SeatRow {
  city: string
  session: string
  seats: number
  accessibleSeats: number
}

/** The column of seats that a session keeps for a group. */
export const keptColumn = (session: string, group: number): string => `${session}+${group}`

/** The session of a column, and the group that it is kept for: null where it is open to all. */
export function partsOfColumn(column: string): { session: string, group: number | null } {
  const [session = '', group] = column.split('+', 2)
  return { session, group: group === undefined ? null : Number(group) }
}

/** The columns of all seats: the sessions, then of each group the sessions again. */
export const columnsOf = (
  sessions: readonly string[],
  groups: number,
): string[] => [...sessions, ...Array.from({ length: groups }, (_, group) => sessions.map(session => keptColumn(session, group))).flat()]

/** More ways than this cannot be told apart in a placement. */
const mostWays = 254

/**
 * The ways through the columns for somebody of some groups, `held` with bit i set for group i: those on kept seats come first, as what is
 * taken first when people are served in turn. Several papers are all sat on seats kept for one group, or all on seats that are open to all.
 *
 * @param ways the ways through the sessions, by their places.
 */
export function waysWithKept(ways: readonly (readonly number[])[], sessions: number, groups: number, held: number): number[][] {
  const kept = Array.from(
    { length: groups },
    (_, group) => held >> group & 1 ? ways.map(way => way.map(session => session + sessions * (group + 1))) : [],
  ).flat()
  return [...kept.slice(0, mostWays - ways.length), ...ways.map(way => [...way])]
}

/** Whether seats of a column are kept for nobody. */
export const isOpenToAll = (sittings: Sittings, column: number): boolean =>
  sessionOf(sittings, column) === column && partsOfColumn(sittings.sessions[column]!).group === null

/**
 * Sets kept seats apart from those that are open to all, and with them as large a share of the accessible ones, rounded down where the rest
 * can hold them.
 *
 * @param free what is free by city and session.
 * @param taken the seats of a city and session that people of a group have already: so many less are kept.
 * @returns each session with the seats that are left for all, followed by the columns kept in it. No more are kept than there are.
 */
export function setApart(
  free: readonly SeatRow[],
  kept: readonly KeptSeats[],
  taken: (group: number, city: string, session: string) => number = () => 0,
): SeatRow[] {
  return free.flatMap(({ city, session, seats: all, accessibleSeats: accessible }) => {
    const left: SeatRow = { city, session, seats: all, accessibleSeats: accessible }
    const apart = kept.flatMap(({ seats }, group): SeatRow[] => {
      const wanted = seats.reduce((n, one) => one.city === city ? n + one.seats : n, 0) - taken(group, city, session)
      const own = Math.max(0, Math.min(left.seats, wanted))
      if (own === 0) return []
      left.seats -= own
      // The seats that are left must hold the accessible ones that are left.
      const share = Math.max(Math.floor(accessible * own / all), left.accessibleSeats - left.seats)
      left.accessibleSeats -= share
      return [{ city, session: keptColumn(session, group), seats: own, accessibleSeats: share }]
    })
    return [left, ...apart]
  })
}

/** What people sit, for an instance: seats by city and column, in the instance's order of cities. */
export function sittingsOf(
  { cities, sessions }: { cities: readonly { id: string }[], sessions: readonly { id: string }[] },
  kinds: Sittings['kinds'],
  free: readonly SeatRow[],
  groups: number,
): Omit<Sittings, 'kindOf'> {
  const columns = columnsOf(sessions.map(session => session.id), groups)
  return { sessions: columns, kinds, ...seatsOf(inOrder(cities), columns, free) }
}

function seatsOf(
  cities: readonly { id: string }[],
  columns: readonly string[],
  free: readonly SeatRow[],
): Pick<Sittings, 'seats' | 'accessible'> {
  const byPlace = new Map(free.map(row => [`${row.city}/${row.session}`, row]))
  const rows = cities.flatMap(city => columns.map(column => byPlace.get(`${city.id}/${column}`)))
  return { seats: Int32Array.from(rows, row => row?.seats ?? 0), accessible: Int32Array.from(rows, row => row?.accessibleSeats ?? 0) }
}

/** The same people on other seats. */
export function onSeats(instance: Instance, free: readonly SeatRow[]): Instance {
  const { cities, sittings } = instance
  if (!sittings) return instance
  const { seats, accessible } = seatsOf(cities, sittings.sessions, free)
  const sum = (n: Int32Array, city: number) =>
    n.subarray(city * sittings.sessions.length, (city + 1) * sittings.sessions.length).reduce((a, b) => a + b, 0)
  return {
    ...instance,
    cities: cities.map((city, k) => ({ ...city, capacity: sum(seats, k), accessibleCapacity: sum(accessible, k) })),
    sittings: { ...sittings, seats, accessible },
  }
}

/**
 * Opens to all what nobody of theirs takes of the seats that are to be opened then. A kept seat counts as taken for each of its people who
 * sit in the session, on whichever seat: so no group can come to have less than it was given.
 *
 * @returns the seats anew and the same people on them, or null when there is nothing to open.
 */
export function withUnusedOpened(
  instance: Instance,
  placed: Allocation,
  free: readonly SeatRow[],
  kept: readonly KeptSeats[],
): { free: SeatRow[], instance: Instance } | null {
  if (kept.length === 0) return null
  const unused = unusedSeats(instance, placed, free)
  const opens = free.map(({ city, session }): Pick<SeatRow, 'seats' | 'accessibleSeats'> => {
    const { group } = partsOfColumn(session)
    return (group !== null && kept[group]?.unused === 'open to all' && unused.get(`${city}/${session}`)) || { seats: 0, accessibleSeats: 0 }
  })
  if (opens.every(row => row.seats === 0)) return null
  // Each session is followed by the columns kept in it.
  const after = free.map((row, i) => ({
    ...row,
    seats: row.seats - opens[i]!.seats,
    accessibleSeats: row.accessibleSeats - opens[i]!.accessibleSeats,
  }))
  let open = after[0]!
  after.forEach((row, i) => {
    if (partsOfColumn(row.session).group === null) open = row
    open.seats += opens[i]!.seats
    open.accessibleSeats += opens[i]!.accessibleSeats
  })
  return { free: after, instance: onSeats(instance, after) }
}

/**
 * Kept seats that nobody of theirs wants, by city and column: those who sit on seats open to all in the same session are counted against
 * them.
 */
function unusedSeats(
  { cities, sittings, needs }: Instance,
  { cityOf, sittings: outcome }: Allocation,
  free: readonly SeatRow[],
): Map<string, Pick<SeatRow, 'seats' | 'accessibleSeats'>> {
  const left =
    new Map(free.flatMap(({ city, session, seats, accessibleSeats }) =>
      partsOfColumn(session).group === null ? [] : [[`${city}/${session}`, { seats, accessibleSeats }]]
    ))
  if (!sittings || !outcome) return left
  const take = (key: string, person: number) => {
    const row = left.get(key)
    if (!row || row.seats === 0) return false
    row.seats -= 1
    row.accessibleSeats = Math.min(row.seats, Math.max(0, row.accessibleSeats - needs[person]!))
    return true
  }
  const groupsOf = sittings.kinds.map(({ ways }) =>
    [...new Set(ways.flat().map(column => partsOfColumn(sittings.sessions[column]!).group))].filter(group => group !== null)
  )
  // Who sits on a kept seat takes that one; only then is it known what those on the other seats may be counted against.
  for (const onKept of [true, false]) {
    cityOf.forEach((city, person) => {
      const kind = sittings.kindOf[person]!
      if (city === noCity || groupsOf[kind]!.length === 0) return
      for (const column of sittings.kinds[kind]!.ways[outcome.wayOf[person]!] ?? []) {
        const { session, group } = partsOfColumn(sittings.sessions[column]!)
        if ((group !== null) !== onKept) continue
        const columns = onKept ? [sittings.sessions[column]!] : groupsOf[kind]!.map(of => keptColumn(session, of))
        columns.some(own => take(`${cities[city]!.id}/${own}`, person))
      }
    })
  }
  return left
}

/** Seats that a run kept for a group, over the sessions of a city, and those of them that were opened to all. */
export interface KeptOfRun {
  title: string
  cities: { city: string, kept: number, opened: number }[]
}

/** What was kept for whom in a run, by the seats before and after what nobody took was opened. */
export function keptOf(kept: readonly KeptSeats[], before: readonly SeatRow[], after: readonly SeatRow[]): KeptOfRun[] {
  const keptIn = (rows: readonly SeatRow[], group: number, city: string) =>
    rows.reduce((n, row) => row.city === city && partsOfColumn(row.session).group === group ? n + row.seats : n, 0)
  return kept.map(({ title, seats }, group) => ({
    title,
    cities: [...new Set(seats.map(row => row.city))].map((city) => {
      const all = keptIn(before, group, city)
      return { city, kept: all, opened: all - keptIn(after, group, city) }
    }),
  }))
}
