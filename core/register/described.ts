/** The register of centres as a file describes it, and how that differs from what stands. */
export interface RegisterRoom {
  code: string
  title: string
}
export interface RegisterVenue {
  code: string
  title: string
  address: string
  contact: string
  rooms: readonly RegisterRoom[]
}
export interface RegisterCity {
  code: string
  title: string
  island: string
  lat: number
  lon: number
  postalPrefix: string
  venues: readonly RegisterVenue[]
}

/** The columns of a table of the register, in their order; the last four are of one examination. */
export const registerColumns = ['city_code', 'city', 'island', 'latitude', 'longitude', 'postal_prefix', 'venue_code', 'venue', 'address',
  'contact', 'room_code', 'room', 'examination', 'seats', 'step_free_seats', 'unusable_seats'] as const
export type RegisterColumn = typeof registerColumns[number]
/** A row of it as it was read; `at` counts from 1 as in the file. */
export interface RegisterRow {
  at: number
  cells: Readonly<Record<RegisterColumn, string>>
}

/** What is wrong with a row: the column, what stands there, and the row or place that it does not agree with. */
export const rowFaultCodes = ['empty', 'code', 'number', 'prefix', 'seats', 'otherwise', 'elsewhere', 'prefix-taken'] as const
export interface RowFault {
  at: number
  code: typeof rowFaultCodes[number]
  column: RegisterColumn
  value: string
  other: string
}

/** One thing that a file brings: a place that is new, or facts of one that change. */
export interface PlaceChange {
  kind: 'city' | 'venue' | 'room'
  code: string
  title: string
  city: string
  isNew: boolean
  facts: { column: RegisterColumn, before: string, after: string }[]
}
/** Seats that the file gives to a room for the examination that it is entered for. */
export interface SeatsGiven {
  room: string
  seats: number
  stepFree: number
  /** Numbers of those that nobody can sit on. */
  unusable: number[]
}

export interface Described {
  faults: RowFault[]
  changes: PlaceChange[]
  seats: SeatsGiven[]
  /** Rows of other examinations: their seats are left as they are. */
  ofOthers: number
}

const factsOf = {
  city: ['city', 'island', 'latitude', 'longitude', 'postal_prefix'],
  venue: ['venue', 'address', 'contact'],
  room: ['room'],
} as const
const codeOf = { city: 'city_code', venue: 'venue_code', room: 'room_code' } as const
const parentOf = { city: null, venue: 'city_code', room: 'venue_code' } as const
type Kind = keyof typeof codeOf

/** What stands in the register, as rows would say it. */
function standing(cities: readonly RegisterCity[]): Map<string, Partial<Record<RegisterColumn, string>>> {
  const known = new Map<string, Partial<Record<RegisterColumn, string>>>()
  for (const city of cities) {
    known.set(`city ${city.code}`, {
      city: city.title,
      island: city.island,
      latitude: String(city.lat),
      longitude: String(city.lon),
      postal_prefix: city.postalPrefix,
    })
    for (const venue of city.venues) {
      known.set(`venue ${venue.code}`, { city_code: city.code, venue: venue.title, address: venue.address, contact: venue.contact })
      for (const room of venue.rooms) known.set(`room ${room.code}`, { venue_code: venue.code, room: room.title })
    }
  }
  return known
}

/**
 * Holds the rows of a file against the register: what each brings, and what is wrong with it. A row with a fault brings nothing. What the
 * file does not name stays as it is: nothing is ever taken out.
 *
 * @param cycle the examination that seats are entered for; rows of others keep theirs.
 */
export function describeRegister(rows: readonly RegisterRow[], cities: readonly RegisterCity[], cycle: string): Described {
  const known = standing(cities)
  const prefixes = new Map(cities.map(city => [city.postalPrefix, city.code]))
  const seen = new Map<string, RegisterRow>()
  const changes = new Map<string, PlaceChange>()
  const found: Described = { faults: [], changes: [], seats: [], ofOthers: 0 }
  for (const row of rows) {
    const faults = faultsOf(row, known, seen, prefixes)
    found.faults.push(...faults)
    if (faults.length > 0) continue
    for (const kind of ['city', 'venue', 'room'] as const) {
      const code = row.cells[codeOf[kind]]
      if (code === '' || seen.has(`${kind} ${code}`)) continue
      seen.set(`${kind} ${code}`, row)
      const before = known.get(`${kind} ${code}`)
      const facts = factsOf[kind].flatMap(column =>
        leavesAsItIs(column, row.cells[column]) || (before && isSame(column, before[column] ?? '', row.cells[column]))
          ? []
          : [{ column, before: before?.[column] ?? '', after: row.cells[column] }]
      )
      if (facts.length > 0) {
        changes.set(`${kind} ${code}`, { kind, code, title: row.cells[factsOf[kind][0]], city: row.cells.city_code, isNew: !before, facts })
      }
    }
    prefixes.set(row.cells.postal_prefix, row.cells.city_code)
    if (row.cells.seats === '') continue
    if (row.cells.examination === '' || row.cells.examination === cycle) {
      found.seats.push({
        room: row.cells.room_code,
        seats: Number(row.cells.seats),
        stepFree: Number(row.cells.step_free_seats || 0),
        unusable: numbersIn(row.cells.unusable_seats).map(Number),
      })
    } else found.ofOthers += 1
  }
  return { ...found, changes: [...changes.values()] }
}

/** A venue may have nobody to ask; a file that does not say whom leaves it as it is. */
const leavesAsItIs = (column: RegisterColumn, value: string) => column === 'contact' && value === ''
const isNumber = (column: RegisterColumn) => column === 'latitude' || column === 'longitude'
const isSame = (column: RegisterColumn, before: string, after: string) =>
  isNumber(column) ? Number(before) === Number(after) : before === after
const isWhole = (text: string, least: number, most: number) => /^\d{1,7}$/.test(text) && Number(text) >= least && Number(text) <= most

function faultsOf(
  { at, cells }: RegisterRow,
  known: ReadonlyMap<string, Partial<Record<RegisterColumn, string>>>,
  seen: ReadonlyMap<string, RegisterRow>,
  prefixes: ReadonlyMap<string, string>,
): RowFault[] {
  const faults: RowFault[] = []
  const fault = (code: RowFault['code'], column: RegisterColumn, other = '') =>
    faults.push({ at, code, column, value: cells[column], other })
  const kinds = (['city', 'venue', 'room'] as const).filter(kind => kind === 'city' || cells[codeOf[kind]] !== '')
  for (const kind of kinds) {
    const code = cells[codeOf[kind]]
    if (!/^[a-z][a-z0-9-]{0,59}$/.test(code)) fault('code', codeOf[kind])
    for (const column of factsOf[kind]) if (cells[column] === '' && !leavesAsItIs(column, '')) fault('empty', column)
    faults.push(...disagreements(at, kind, cells, known, seen))
  }
  if (cells.room_code !== '' && cells.venue_code === '') fault('empty', 'venue_code')
  for (const [column, most] of [['latitude', 90], ['longitude', 180]] as const) {
    if (cells[column] !== '' && !(/^-?\d{1,3}(\.\d+)?$/.test(cells[column]) && Math.abs(Number(cells[column])) <= most)) {
      fault('number', column)
    }
  }
  if (cells.postal_prefix !== '' && !/^\d{1,10}$/.test(cells.postal_prefix)) fault('prefix', 'postal_prefix')
  const holder = prefixes.get(cells.postal_prefix)
  if (holder !== undefined && holder !== cells.city_code) fault('prefix-taken', 'postal_prefix', holder)
  if (cells.seats !== '' && (cells.room_code === '' || !isWhole(cells.seats, 1, 100_000))) fault('seats', 'seats')
  if (cells.step_free_seats !== '' && !isWhole(cells.step_free_seats, 0, Number(cells.seats) || 0)) fault('seats', 'step_free_seats')
  if (numbersIn(cells.unusable_seats).some(seat => !isWhole(seat, 1, Number(cells.seats) || 0))) fault('seats', 'unusable_seats')
  return faults
}

/** Numbers in a cell, apart by spaces or commas. */
const numbersIn = (cell: string) => cell.split(/[\s,;]+/).filter(part => part !== '')

// The same code says the same in every row of a file, and lies where the register has it.
function disagreements(
  at: number,
  kind: Kind,
  cells: RegisterRow['cells'],
  known: ReadonlyMap<string, Partial<Record<RegisterColumn, string>>>,
  seen: ReadonlyMap<string, RegisterRow>,
): RowFault[] {
  const code = cells[codeOf[kind]]
  const before = seen.get(`${kind} ${code}`)
  const other = before
    && factsOf[kind].find(column => !leavesAsItIs(column, cells[column]) && !isSame(column, before.cells[column], cells[column]))
  const parent = parentOf[kind]
  const home = parent && (before?.cells[parent] ?? known.get(`${kind} ${code}`)?.[parent])
  return [
    ...before && other ? [{ at, code: 'otherwise' as const, column: other, value: cells[other], other: String(before.at) }] : [],
    ...parent && home !== undefined && home !== null && home !== cells[parent]
      ? [{ at, code: 'elsewhere' as const, column: parent, value: cells[parent], other: home }]
      : [],
  ]
}
