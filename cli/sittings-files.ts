import { InstanceBuilder, type AllocationCity, type Instance, type Person, type SittingKind } from '../core/allocation/instance'
import { distanceKm } from '../core/allocation/policy'
import { candidateColumns, truth } from './allocation-files'
import { Faults, readTable } from './csv-table'
import { InputError } from './input'

export interface SittingsFiles {
  cities: string
  seats: string
  papers: string
  candidates: string
  reserved?: string
  near?: string
  colliding?: string
}

/** Ways through the sessions that the papers of one person may have. */
const mostWays = 254

/**
 * Cities, seats by session, papers and candidates as an instance of people who sit several papers. Seats that are kept for somebody are
 * sessions of their own.
 *
 * @throws InputError naming every faulty line of every file, up to fifty of each.
 */
export async function readSittings(files: SittingsFiles): Promise<Instance> {
  const reader = new Reader()
  await reader.cities(files.cities)
  await reader.seats(files.seats)
  await reader.papers(files.papers)
  if (files.reserved !== undefined) await reader.reserved(files.reserved)
  if (files.near !== undefined) await reader.near(files.near)
  reader.colliding(files.colliding)
  await reader.candidates(files.candidates)
  return reader.end()
}

const whole = (text: string) => /^\d{1,9}$/.test(text) ? Number(text) : null
const parts = (cell: string) => cell === '' ? [] : cell.split(';').map(part => part.trim())

/** Rows by their id, each with its place. */
class Named<T> {
  readonly rows: T[] = []
  private readonly places = new Map<string, number>()
  at = (id: string) => this.places.get(id) ?? -1
  add(id: string, row: T): number {
    this.places.set(id, this.rows.length)
    return this.rows.push(row) - 1
  }
}

interface Paper {
  id: string
  sessions: number[]
  closedCities: number[]
}
/** A column of seats: those of a session, or those of it that are kept for a paper or a tag. */
interface Column {
  session: number
  for: string | null
}

class Reader {
  private readonly all: Faults[] = []
  private readonly cityRows = new Named<AllocationCity>()
  private readonly sessions = new Named<string>()
  private readonly seatRows = new Named<{ city: number, session: number, seats: number, accessible: number }>()
  private readonly paperRows = new Named<Paper>()
  private readonly columns = new Named<Column>()
  /** Of each session the column of those of its seats that are kept for nobody. */
  private readonly openColumns: number[] = []
  private readonly kept: { city: number, column: number, seats: number }[] = []
  private readonly promises: { tag: string, km: number }[] = []
  private readonly collisions: [number, number][] = []
  private readonly kinds = new Named<SittingKind>()
  private readonly classes = new Named<Uint8Array>()
  private readonly parties = new Named<string>()
  private readonly people: Person[] = []

  private open(path: string): Faults {
    const faults = new Faults(path)
    this.all.push(faults)
    return faults
  }

  async cities(path: string): Promise<void> {
    const faults = this.open(path)
    await readTable(faults, ['id', 'lat', 'lon'], ['capacity', 'accessible_capacity'], (cell, line) => {
      const [id, lat, lon] = [cell('id'), Number(cell('lat') || Number.NaN), Number(cell('lon') || Number.NaN)]
      if (id === '' || this.cityRows.at(id) >= 0) faults.add(line, id === '' ? 'the id is empty' : `city ${id} stood there before`)
      if (!(Math.abs(lat) <= 90) || !(Math.abs(lon) <= 180)) {
        faults.add(line, `city ${id}: "${cell('lat')}, ${cell('lon')}" is no place in degrees`)
      }
      this.cityRows.add(id, { id, lat, lon, capacity: 0, accessibleCapacity: 0 })
    })
  }

  async seats(path: string): Promise<void> {
    const faults = this.open(path)
    await readTable(faults, ['city', 'session', 'capacity', 'accessible_capacity'], [], (cell, line) => {
      const [city, seats, accessible] = [this.cityRows.at(cell('city')), whole(cell('capacity')), whole(cell('accessible_capacity'))]
      if (this.sessions.at(cell('session')) < 0) {
        this.openColumns
          .push(this.columns.add(`${cell('session')}\n`, { session: this.sessions.add(cell('session'), cell('session')), for: null }))
      }
      const session = this.sessions.at(cell('session'))
      if (city < 0) faults.add(line, `city "${cell('city')}" is not among the cities`)
      if (seats === null || accessible === null) {
        faults.add(line, `seats "${cell('capacity')}", "${cell('accessible_capacity')}" are not whole numbers of 0 or more`)
      } else if (accessible > seats) faults.add(line, `${accessible} accessible seats are more than all ${seats}`)
      if (this.seatRows.at(`${city} ${session}`) >= 0) faults.add(line, `${cell('city')}, ${cell('session')} stood there before`)
      this.seatRows.add(`${city} ${session}`, { city, session, seats: seats ?? 0, accessible: accessible ?? 0 })
    })
  }

  async papers(path: string): Promise<void> {
    const faults = this.open(path)
    await readTable(faults, ['paper', 'sessions'], ['closed'], (cell, line) => {
      const sessions = this.named(
        parts(cell('sessions')),
        this.sessions.at,
        name => faults.add(line, `session "${name}" has no seats anywhere`),
      )
      const closedCities = this.named(
        parts(cell('closed')),
        this.cityRows.at,
        name => faults.add(line, `closed city "${name}" is not among the cities`),
      )
      if (sessions.length === 0) faults.add(line, `paper ${cell('paper')} is held in no session`)
      if (this.paperRows.at(cell('paper')) >= 0) faults.add(line, `paper ${cell('paper')} stood there before`)
      this.paperRows.add(cell('paper'), { id: cell('paper'), sessions, closedCities })
    })
  }

  async reserved(path: string): Promise<void> {
    const faults = this.open(path)
    await readTable(faults, ['city', 'session', 'for', 'seats'], [], (cell, line) => {
      const [city, session, seats] = [this.cityRows.at(cell('city')), this.sessions.at(cell('session')), whole(cell('seats'))]
      if (city < 0 || session < 0) faults.add(line, `there are no seats in city "${cell('city')}" and session "${cell('session')}"`)
      if (seats === null) faults.add(line, `seats "${cell('seats')}" is not a whole number of 0 or more`)
      if (cell('for') === '') faults.add(line, 'it is not said for whom the seats are kept; name a paper or a tag')
      const key = `${session}\n${cell('for')}`
      const column = this.columns.at(key) >= 0 ? this.columns.at(key) : this.columns.add(key, { session, for: cell('for') })
      this.kept.push({ city, column, seats: seats ?? 0 })
      const there = this.seatRows.rows[this.seatRows.at(`${city} ${session}`)]?.seats ?? 0
      const sum = this.kept.filter(row => row.city === city && this.columns.rows[row.column]?.session === session).reduce(
        (all, row) => all + row.seats,
        0,
      )
      if (sum > there) faults.add(line, `${cell('city')}, ${cell('session')}: ${sum} reserved seats are more than all ${there}`)
    })
  }

  async near(path: string): Promise<void> {
    const faults = this.open(path)
    await readTable(faults, ['tag', 'km'], [], (cell, line) => {
      const km = whole(cell('km'))
      if (km === null) faults.add(line, `km "${cell('km')}" is not a whole number of 0 or more`)
      this.promises.push({ tag: cell('tag'), km: km ?? 0 })
    })
  }

  /** `a+b,c+d`: pairs of sessions that nobody can sit both of. */
  colliding(pairs: string | undefined): void {
    for (const pair of pairs?.split(',') ?? []) {
      const [a = -1, b = -1, ...more] = pair.split('+').map(name => this.sessions.at(name.trim()))
      if (a < 0 || b < 0 || more.length > 0) {
        throw new InputError(`--colliding "${pair}" does not name two sessions; write them like one+two,two+three. There are: ${
          this.sessions.rows.join(', ')
        }`)
      }
      this.collisions.push([a, b])
    }
  }

  async candidates(path: string): Promise<void> {
    const faults = this.open(path)
    const lines = new Map<string, number>()
    await readTable(faults, [...candidateColumns, 'papers'], ['party', 'tags'], (cell, line) => {
      const id = cell('id')
      const say = (fault: string) => faults.add(line, `candidate ${id}: ${fault}`)
      if (id === '') faults.add(line, 'the id is empty')
      else if (lines.has(id)) say(`stood there before, on line ${lines.get(id)}`)
      lines.set(id, line)
      const home = this.cityRows.at(cell('home'))
      if (home < 0) say(`home "${cell('home')}" is not among the cities`)
      const choices = this.named(parts(cell('prefs')), this.cityRows.at, name => say(`choice "${name}" is not among the cities`))
      if (choices.length === 0 || new Set(choices).size < choices.length) {
        say(choices.length === 0 ? 'prefs name no city' : 'a city stands twice in the list')
      }
      const papers = this.named(parts(cell('papers')), this.paperRows.at, name => say(`paper "${name}" is not among the papers`))
      if (papers.length === 0 || new Set(papers).size < papers.length) {
        say(papers.length === 0 ? 'sits no paper' : 'a paper stands twice in the list')
      }
      const needs = truth.get(cell('needs_accessible').toLowerCase())
      if (needs === undefined) say(`needs_accessible "${cell('needs_accessible')}" is not 0, 1, true or false`)
      const tags = parts(cell('tags'))
      const kind = this.kindOf(papers, tags, say)
      this.people.push({
        id,
        home,
        choices,
        needs: needs ?? false,
        turn: this.people.length,
        kind,
        class: home < 0 ? 0 : this.classOf(papers, tags, home),
        ...(cell('party') !== '' && { party: this.partyOf(cell('party')) }),
      })
    })
    if (this.people.length === 0 && faults.count === 0) {
      throw new InputError(`${path} names no candidate; give a line for each below its header`)
    }
  }

  private partyOf(name: string): number {
    return this.parties.at(name) >= 0 ? this.parties.at(name) : this.parties.add(name, name)
  }

  /**
   * What somebody sits, with the seats that are kept for them: each way names a column of seats for each paper, in the order of the papers.
   */
  private kindOf(papers: readonly number[], tags: readonly string[], say: (fault: string) => void): number {
    const sat = [...papers].sort((a, b) => a - b).flatMap(at => this.paperRows.rows[at] ?? [])
    const key = JSON.stringify([sat.map(paper => paper.id),
      tags.filter(tag => this.columns.rows.some(column => column.for === tag)).sort()])
    if (this.kinds.at(key) >= 0) return this.kinds.at(key)
    const session = (column: number) => this.columns.rows[column]?.session ?? -1
    const collide = (a: number, b: number) => a === b || this.collisions.some(([x, y]) => (x === a && y === b) || (x === b && y === a))
    let ways: number[][] = [[]]
    for (const paper of sat) {
      const open = [...this.columns.rows.keys()].filter(at =>
        paper.sessions.includes(session(at)) && [null, paper.id, ...tags].includes(this.columns.rows[at]?.for ?? null)
      )
      ways = ways.flatMap(way =>
        open.filter(column => !way.some(other => collide(session(column), session(other)))).map(column => [...way, column])
      )
    }
    if (ways.length > mostWays) {
      say(`the papers can be sat in ${ways.length} ways, and ${mostWays} are the most; give papers fewer sessions, or keep seats for fewer tags`)
    }
    return this.kinds.add(key, { papers: sat.map(paper => paper.id), ways: ways.slice(0, mostWays) })
  }

  /** Cities that are closed to somebody: where a paper is not held, and those too far for a promise. */
  private classOf(papers: readonly number[], tags: readonly string[], home: number): number {
    const cities = this.cityRows.rows
    const promised = this.promises.filter(promise => tags.includes(promise.tag)).map(promise => promise.km)
    const key = JSON.stringify([...new Set(papers.flatMap(paper => this.paperRows.rows[paper]?.closedCities ?? []))].sort((a, b) => a - b))
      + (promised.length > 0 ? ` ${home} ${Math.min(...promised)}` : '')
    if (this.classes.at(key) >= 0) return this.classes.at(key)
    const from = cities[home]
    const isFar = (city: AllocationCity) => from !== undefined && promised.some(km => distanceKm(from, city) > km)
    return this.classes.add(
      key,
      Uint8Array.from(
        cities,
        (city, k) => papers.some(paper => this.paperRows.rows[paper]?.closedCities.includes(k)) || isFar(city) ? 1 : 0,
      ),
    )
  }

  private named(names: string[], at: (name: string) => number, missing: (name: string) => void): number[] {
    return names.flatMap((name) => {
      if (at(name) >= 0) return [at(name)]
      missing(name)
      return []
    })
  }

  end(): Instance {
    const faulty = this.all.filter(faults => faults.count > 0)
    if (faulty.length > 0) throw new InputError(faulty.map(faults => faults.words()).join('\n'))
    this.tellOfIdleSeats()
    const builder = new InstanceBuilder(this.cityRows.rows, Math.max(...this.people.map(person => person.choices.length)), 'row')
    // The builder has the cities in an order of its own.
    const place = this.cityRows.rows.map(city => builder.cityAt(city.id) ?? 0)
    for (const person of this.people) {
      builder.add({
        ...person,
        home: place[person.home] ?? 0,
        choices: person.choices.map(k => place[k] ?? 0),
      })
    }
    const closed = new Uint8Array(this.classes.rows.length * place.length)
    this.classes.rows.forEach((row, of) =>
      row.forEach((isClosed, k) => {
        closed[of * place.length + (place[k] ?? 0)] = isClosed
      })
    )
    return builder.build({ classes: this.classes.rows.length, closed }, { ...this.seatColumns(place), kinds: this.kinds.rows })
  }

  /** A slip in a tag keeps seats from everybody: that is said, but it may be meant. */
  private tellOfIdleSeats(): void {
    const sat = new Set(this.kinds.rows.flatMap(kind => kind.ways.flat()))
    const idle = this.columns.rows.flatMap((column, at) =>
      column.for === null || sat.has(at) ? [] : [`${column.for} (session ${this.sessions.rows[column.session]})`]
    )
    if (idle.length > 0) console.error(`lucid: seats are kept for ${idle.join(', ')}, and no candidate may sit on them.`)
  }

  private seatColumns(place: readonly number[]) {
    const columns = this.columns.rows
    const seats = new Int32Array(place.length * columns.length)
    const accessible = new Int32Array(seats.length)
    const at = (city: number, column: number) => (place[city] ?? 0) * columns.length + column
    const within = Uint16Array.from(columns, ({ session }) => this.openColumns[session] ?? 0)
    const add = (to: Int32Array, place: number, more: number) => {
      to[place] = (to[place] ?? 0) + more
    }
    for (const row of this.seatRows.rows) {
      add(seats, at(row.city, this.openColumns[row.session] ?? 0), row.seats)
      add(accessible, at(row.city, this.openColumns[row.session] ?? 0), row.accessible)
    }
    for (const { city, column, seats: kept } of this.kept) {
      add(seats, at(city, column), kept)
      add(seats, at(city, within[column] ?? 0), -kept)
    }
    return { sessions: columns.map(({ session }) => this.sessions.rows[session] ?? ''), within, seats, accessible }
  }
}
