import { createReadStream } from 'node:fs'
import Papa from 'papaparse'
import { z } from 'zod'
import { cityFaults, InstanceBuilder, type AllocationCity, type Instance } from '../core/allocation/instance'
import { InputError } from './input'

/** Gathers everything wrong with a file, by line, up to a limit. */
class Faults {
  private readonly found: string[] = []
  count = 0
  constructor(readonly path: string) {}

  add(line: number, fault: string): void {
    this.count += 1
    if (this.found.length < mostFaultsShown) this.found.push(`  line ${line}: ${fault}`)
  }

  words(): string {
    const more = this.count > this.found.length ? `\n  and ${this.count - this.found.length} more` : ''
    return `${this.path} has ${this.count} ${this.count === 1 ? 'fault' : 'faults'}; nothing was allocated:\n${this.found.join('\n')}${more}`
  }
}

const mostFaultsShown = 50
const mostChoices = 5
const cityColumns = ['id', 'lat', 'lon', 'capacity', 'accessible_capacity']
const candidateColumns = ['id', 'home', 'prefs', 'needs_accessible']

/**
 * Cities and candidates as an instance.
 *
 * @throws InputError naming every faulty line of a file, up to fifty.
 */
export async function readInstance(citiesPath: string, candidatesPath: string): Promise<Instance> {
  const files = [new Faults(citiesPath), new Faults(candidatesPath)] as const
  const builder = await readCandidates(files[1], await readCities(files[0]))
  const faulty = files.filter(file => file.count > 0)
  if (faulty.length > 0) throw new InputError(faulty.map(file => file.words()).join('\n'))
  return builder.build()
}

async function readCities(faults: Faults): Promise<AllocationCity[]> {
  const cities: AllocationCity[] = []
  const lines = new Map<string, number>()
  await readTable(faults, cityColumns, [], (cell, line) => {
    const number = (column: string) => /^[+-]?\d+(\.\d+)?$/.test(cell(column)) ? Number(cell(column)) : Number.NaN
    const city = { id: cell('id'), lat: number('lat'), lon: number('lon'), capacity: number('capacity'), accessibleCapacity: number('accessible_capacity') }
    const before = lines.get(city.id)
    for (const column of cityColumns.slice(1)) if (Number.isNaN(number(column))) faults.add(line, `${column} "${cell(column)}" is not a number`)
    if (cityColumns.slice(1).every(column => !Number.isNaN(number(column)))) for (const fault of cityFaults(city)) faults.add(line, fault)
    if (/[;\s]/.test(city.id)) faults.add(line, `city id "${city.id}" holds a space or ";", which divides lists`)
    if (before !== undefined) faults.add(line, `city ${city.id} stood there before, on line ${before}`)
    lines.set(city.id, line)
    cities.push(city)
  })
  if (cities.length > 2000) faults.add(1, `${cities.length} cities are more than 2000`)
  if (cities.length === 0 && faults.count === 0) throw new InputError(`${faults.path} names no city; give a line for each below its header ${cityColumns.join(',')}`)
  return cities
}

async function readCandidates(faults: Faults, cities: AllocationCity[]): Promise<InstanceBuilder> {
  const lines = new Map<string, number>()
  let builder: InstanceBuilder | null = null
  let row = 0
  await readTable(faults, candidateColumns, ['applied_at'], (cell, line, header) => {
    builder ??= new InstanceBuilder(cities, mostChoices, header.includes('applied_at') ? 'instant' : 'row')
    const known = faults.count
    const id = cell('id')
    if (id === '') faults.add(line, 'the id is empty')
    else if (lines.has(id)) faults.add(line, `candidate ${id} stood there before, on line ${lines.get(id)}`)
    lines.set(id, line)
    const home = builder.cityAt(cell('home'))
    if (home === undefined) faults.add(line, `candidate ${id}: home "${cell('home')}" is not among the cities`)
    const choices = readChoices(builder, cell('prefs'), fault => faults.add(line, `candidate ${id}: ${fault}`))
    const needs = truth.get(cell('needs_accessible').toLowerCase())
    if (needs === undefined) faults.add(line, `candidate ${id}: needs_accessible "${cell('needs_accessible')}" is not 0, 1, true or false`)
    const turn = header.includes('applied_at') ? instantOf(cell('applied_at')) : row
    if (turn === null) faults.add(line, `candidate ${id}: applied_at "${cell('applied_at')}" is not an instant by ISO 8601, like 2026-11-25T18:00:00Z`)
    row += 1
    if (faults.count === known && home !== undefined && needs !== undefined && turn !== null) builder.add({ id, home, choices, needs, turn })
  })
  if (row === 0 && faults.count === 0) throw new InputError(`${faults.path} names no candidate; give a line for each below its header ${candidateColumns.join(',')}`)
  return builder ?? new InstanceBuilder(cities, mostChoices, 'row')
}

const truth = new Map([['0', false], ['1', true], ['false', false], ['true', true]])

function readChoices(builder: InstanceBuilder, cell: string, fault: (text: string) => void): number[] {
  const names = cell.split(';')
  if (cell === '') fault('prefs name no city; give 1 to 5, separated by ";"')
  else if (names.length > mostChoices) fault(`prefs name ${names.length} cities; give ${mostChoices} at most`)
  const choices: number[] = []
  for (const name of cell === '' ? [] : names) {
    const city = builder.cityAt(name.trim())
    if (city === undefined) fault(`choice "${name}" is not among the cities`)
    else if (choices.includes(city)) fault(`city ${name.trim()} stands twice in the list`)
    else choices.push(city)
  }
  return choices
}

const instant = z.union([z.iso.datetime({ offset: true, local: true }), z.iso.date()])

/** Milliseconds of an ISO 8601 instant; without a zone it is taken as UTC. */
function instantOf(cell: string): number | null {
  if (!instant.safeParse(cell).success) return null
  return Date.parse(/(Z|[+-]\d\d:?\d\d)$/i.test(cell.slice(10)) || cell.length === 10 ? cell : `${cell}Z`)
}

type Cell = (column: string) => string

/**
 * Reads a CSV file (RFC 4180; byte order mark and any line ends are taken) line by line. Lines with a wrong number of cells are
 * faults and passed over.
 *
 * @throws InputError when the file cannot be read, is empty, or its header is wrong.
 */
async function readTable(faults: Faults, columns: string[], optional: string[], take: (cell: Cell, line: number, header: string[]) => void): Promise<void> {
  let header: string[] | null = null
  let places: Record<string, number> = {}
  let record: string[] = []
  let line = 1
  const cell: Cell = column => (record[places[column] ?? -1] ?? '').trim()
  const onRecord = (cells: string[], at: number): void => {
    if (cells.length === 1 && (cells[0] ?? '').trim() === '') return
    if (!header) {
      header = checkedHeader(faults.path, cells.map((name, i) => (i === 0 ? name.replace(/^\uFEFF/, '') : name).trim()), columns, optional)
      places = Object.fromEntries(header.map((name, i) => [name, i]))
    } else if (cells.length !== header.length) {
      faults.add(at, `${cells.length} cells, but the header names ${header.length} columns`)
    } else {
      record = cells
      take(cell, at, header)
    }
  }
  await eachPiece(faults.path, (records, broken) => {
    records.forEach((cells, i) => {
      const quotes = broken.get(i)
      if (quotes) faults.add(line, quotes)
      else onRecord(cells, line)
      line += 1
      for (const text of cells) if (text.includes('\n')) line += text.split('\n').length - 1
    })
  })
  if (!header) throw new InputError(`${faults.path} is empty; its first line must name the columns ${columns.join(',')}`)
}

/** The records of a file in pieces of many, with what is wrong with the quotes of a record, by its place in the piece. */
async function eachPiece(path: string, take: (records: string[][], broken: Map<number, string>) => void): Promise<void> {
  const stream = createReadStream(path, { encoding: 'utf8', highWaterMark: 1 << 20 })
  try {
    await new Promise<void>((done, failed) => {
      Papa.parse<string[]>(stream, {
        delimiter: ',',
        chunk: ({ data, errors }) => {
          try {
            take(data, new Map(errors.filter(e => e.type === 'Quotes').map(e => [e.row ?? 0, `the quotes do not match (${e.message.toLowerCase()})`])))
          } catch (error) {
            failed(error as Error)
            stream.destroy()
          }
        },
        complete: () => done(), error: failed,
      })
    })
  } catch (error) {
    if (error instanceof InputError) throw error
    throw new InputError(`${path} cannot be read: ${error instanceof Error ? error.message : 'unknown reason'}`)
  } finally {
    stream.destroy()
  }
}

function checkedHeader(path: string, header: string[], columns: string[], optional: string[]): string[] {
  const missing = columns.filter(name => !header.includes(name))
  const unknown = header.filter(name => !columns.includes(name) && !optional.includes(name))
  const twice = header.filter((name, i) => header.indexOf(name) !== i)
  const faults = [
    ...missing.map(name => `column "${name}" is missing`), ...unknown.map(name => `column "${name}" is not known`), ...twice.map(name => `column "${name}" stands there twice`),
  ]
  if (faults.length === 0) return header
  throw new InputError(`${path}, line 1: ${faults.join('; ')}. The columns are ${columns.join(',')}${optional.length > 0 ? ` and, if wanted, ${optional.join(',')}` : ''}`)
}
