import { z } from 'zod'
import { cityFaults, InstanceBuilder, type AllocationCity, type Instance } from '../core/allocation/instance'
import { Faults, readTable } from './csv-table'
import { InputError } from './input'

const mostChoices = 5
const cityColumns = ['id', 'lat', 'lon', 'capacity', 'accessible_capacity']
export const candidateColumns = ['id', 'home', 'prefs', 'needs_accessible']

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
    const city = {
      id: cell('id'),
      lat: number('lat'),
      lon: number('lon'),
      capacity: number('capacity'),
      accessibleCapacity: number('accessible_capacity'),
    }
    const before = lines.get(city.id)
    for (const column of cityColumns.slice(1)) {
      if (Number.isNaN(number(column))) faults.add(line, `${column} "${cell(column)}" is not a number`)
    }
    if (cityColumns.slice(1).every(column => !Number.isNaN(number(column)))) {
      for (const fault of cityFaults(city)) faults.add(line, fault)
    }
    if (city.id.includes(';')) faults.add(line, `city id "${city.id}" holds ";", which divides lists`)
    if (before !== undefined) faults.add(line, `city ${city.id} stood there before, on line ${before}`)
    lines.set(city.id, line)
    cities.push(city)
  })
  if (cities.length > 2000) faults.add(1, `${cities.length} cities are more than 2000`)
  if (cities.length === 0 && faults.count === 0) {
    throw new InputError(`${faults.path} names no city; give a line for each below its header ${cityColumns.join(',')}`)
  }
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
    if (turn === null) {
      faults.add(line, `candidate ${id}: applied_at "${cell('applied_at')}" is not an instant by ISO 8601, like 2026-11-25T18:00:00Z`)
    }
    row += 1
    if (faults.count === known && home !== undefined && needs !== undefined && turn !== null) {
      builder.add({ id, home, choices, needs, turn })
    }
  })
  if (row === 0 && faults.count === 0) {
    throw new InputError(`${faults.path} names no candidate; give a line for each below its header ${candidateColumns.join(',')}`)
  }
  return builder ?? new InstanceBuilder(cities, mostChoices, 'row')
}

/** How need is written. */
export const truth = new Map([['0', false], ['1', true], ['false', false], ['true', true]])

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
