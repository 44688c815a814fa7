import type { PartyInstance, PartyPerson } from '../core/allocation/parties/model'
import { candidateColumns, truth } from './allocation-files'
import { Faults, readTable } from './csv-table'
import { InputError } from './input'

export interface SittingsFiles { cities: string, seats: string, papers: string, candidates: string, reserved?: string, near?: string, colliding?: string }

/**
 * Cities, seats by session, papers and candidates as an instance of people who sit several papers.
 *
 * @throws InputError naming every faulty line of every file, up to fifty of each.
 */
export async function readSittings(files: SittingsFiles): Promise<PartyInstance> {
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

class Reader {
  private readonly all: Faults[] = []
  private readonly cityRows: PartyInstance['cities'] = []
  private readonly sessions: string[] = []
  private readonly seatRows: { city: number, session: number, seats: number, accessible: number }[] = []
  private readonly paperRows: PartyInstance['papers'] = []
  private readonly kept: PartyInstance['reserved'] = []
  private readonly promises: PartyInstance['nearHome'] = []
  private readonly collisions: [number, number][] = []
  private readonly people: PartyPerson[] = []

  private open(path: string): Faults {
    const faults = new Faults(path)
    this.all.push(faults)
    return faults
  }

  private city = (id: string) => this.cityRows.findIndex(c => c.id === id)
  private session = (id: string) => this.sessions.indexOf(id)
  private paper = (id: string) => this.paperRows.findIndex(p => p.id === id)

  async cities(path: string): Promise<void> {
    const faults = this.open(path)
    await readTable(faults, ['id', 'lat', 'lon'], ['capacity', 'accessible_capacity'], (cell, line) => {
      const [id, lat, lon] = [cell('id'), Number(cell('lat') || Number.NaN), Number(cell('lon') || Number.NaN)]
      if (id === '' || this.city(id) >= 0) faults.add(line, id === '' ? 'the id is empty' : `city ${id} stood there before`)
      if (!(Math.abs(lat) <= 90) || !(Math.abs(lon) <= 180)) faults.add(line, `city ${id}: "${cell('lat')}, ${cell('lon')}" is no place in degrees`)
      this.cityRows.push({ id, lat, lon })
    })
  }

  async seats(path: string): Promise<void> {
    const faults = this.open(path)
    await readTable(faults, ['city', 'session', 'capacity', 'accessible_capacity'], [], (cell, line) => {
      const [city, seats, accessible] = [this.city(cell('city')), whole(cell('capacity')), whole(cell('accessible_capacity'))]
      if (!this.sessions.includes(cell('session'))) this.sessions.push(cell('session'))
      const session = this.session(cell('session'))
      if (city < 0) faults.add(line, `city "${cell('city')}" is not among the cities`)
      if (seats === null || accessible === null) faults.add(line, `seats "${cell('capacity')}", "${cell('accessible_capacity')}" are not whole numbers of 0 or more`)
      else if (accessible > seats) faults.add(line, `${accessible} accessible seats are more than all ${seats}`)
      if (this.seatRows.some(row => row.city === city && row.session === session)) faults.add(line, `${cell('city')}, ${cell('session')} stood there before`)
      this.seatRows.push({ city, session, seats: seats ?? 0, accessible: accessible ?? 0 })
    })
  }

  async papers(path: string): Promise<void> {
    const faults = this.open(path)
    await readTable(faults, ['paper', 'sessions'], ['closed'], (cell, line) => {
      const sessions = this.named(parts(cell('sessions')), this.session, name => faults.add(line, `session "${name}" has no seats anywhere`))
      const closedCities = this.named(parts(cell('closed')), this.city, name => faults.add(line, `closed city "${name}" is not among the cities`))
      if (sessions.length === 0) faults.add(line, `paper ${cell('paper')} is held in no session`)
      if (this.paper(cell('paper')) >= 0) faults.add(line, `paper ${cell('paper')} stood there before`)
      this.paperRows.push({ id: cell('paper'), sessions, closedCities })
    })
  }

  async reserved(path: string): Promise<void> {
    const faults = this.open(path)
    await readTable(faults, ['city', 'session', 'for', 'seats'], [], (cell, line) => {
      const [city, session, seats] = [this.city(cell('city')), this.session(cell('session')), whole(cell('seats'))]
      if (city < 0 || session < 0) faults.add(line, `there are no seats in city "${cell('city')}" and session "${cell('session')}"`)
      if (seats === null) faults.add(line, `seats "${cell('seats')}" is not a whole number of 0 or more`)
      this.kept.push({ city, session, for: cell('for'), seats: seats ?? 0 })
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
      const [a = -1, b = -1, ...more] = pair.split('+').map(name => this.session(name.trim()))
      if (a < 0 || b < 0 || more.length > 0) throw new InputError(`--colliding "${pair}" does not name two sessions; write them like one+two,two+three. There are: ${this.sessions.join(', ')}`)
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
      const home = this.city(cell('home'))
      if (home < 0) say(`home "${cell('home')}" is not among the cities`)
      const choices = this.named(parts(cell('prefs')), this.city, name => say(`choice "${name}" is not among the cities`))
      if (choices.length === 0 || new Set(choices).size < choices.length) say(choices.length === 0 ? 'prefs name no city' : 'a city stands twice in the list')
      const papers = this.named(parts(cell('papers')), this.paper, name => say(`paper "${name}" is not among the papers`))
      if (papers.length === 0 || new Set(papers).size < papers.length) say(papers.length === 0 ? 'sits no paper' : 'a paper stands twice in the list')
      const needs = truth.get(cell('needs_accessible').toLowerCase())
      if (needs === undefined) say(`needs_accessible "${cell('needs_accessible')}" is not 0, 1, true or false`)
      this.people.push({ id, home, choices, needs: needs ?? false, papers, tags: parts(cell('tags')), party: cell('party') || null })
    })
    if (this.people.length === 0 && faults.count === 0) throw new InputError(`${path} names no candidate; give a line for each below its header`)
  }

  private named(names: string[], at: (name: string) => number, missing: (name: string) => void): number[] {
    return names.flatMap((name) => {
      if (at(name) >= 0) return [at(name)]
      missing(name)
      return []
    })
  }

  end(): PartyInstance {
    const faulty = this.all.filter(faults => faults.count > 0)
    if (faulty.length > 0) throw new InputError(faulty.map(faults => faults.words()).join('\n'))
    const { sessions } = this
    const [capacity, accessible] = [new Int32Array(this.cityRows.length * sessions.length), new Int32Array(this.cityRows.length * sessions.length)]
    for (const row of this.seatRows) {
      capacity[row.city * sessions.length + row.session] = row.seats
      accessible[row.city * sessions.length + row.session] = row.accessible
    }
    return { cities: this.cityRows, sessions, collisions: this.collisions, capacity, accessible, reserved: this.kept, papers: this.paperRows, nearHome: this.promises, people: this.people }
  }
}
