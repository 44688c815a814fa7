import { createHash } from 'node:crypto'
import { createReadStream, renameSync, writeFileSync } from 'node:fs'
import { open } from 'node:fs/promises'
import { parseArgs } from 'node:util'
import { stringify } from 'csv-stringify/sync'
import { allocate as place } from '../core/allocation/allocate'
import type { Allocation } from '../core/allocation/allocation'
import { type Instance, noCity } from '../core/allocation/instance'
import { outcomeOf } from '../core/allocation/outcome'
import { policyFaults, policyKinds, usualCosts, type AllocationPolicy, type Costs } from '../core/allocation/policy'
import { readInstance } from './allocation-files'
import { InputError } from './input'

const help = `lucid allocate --cities cities.csv --candidates candidates.csv --policy ${policyKinds.join('|')} [--seed n]
  [--choice-costs ${
  usualCosts.choiceCosts.join(',')
}] [--off-list-base ${usualCosts.offListBase}] [--km-cap ${usualCosts.kilometreCap}] [--unseated ${usualCosts.unseated}] --out allotment.csv --report report.json

Places every candidate in a city by the policy and proves what the placement is worth.
Formats: docs/formats.md. Exit code 0: certified as the best there is, or by policy; 2: bad input; 3: not certified.`

interface Options {
  cities: string
  candidates: string
  out: string
  report: string
  policy: AllocationPolicy
}

/** Allocates candidates of a file to cities of a file; the exit code. */
export async function allocate(args: string[]): Promise<number> {
  const options = readOptions(args)
  if (!options) return 0
  const started = clock()
  const instance = await readInstance(options.cities, options.candidates)
  const read = clock()
  const allocation = place(instance, options.policy)
  const solved = clock()
  await writeAllotment(options.out, instance, allocation)
  const timings = { read: between(started, read), allocate: between(read, solved), write: between(solved, clock()) }
  const inputs = { cities: await sha256Of(options.cities), candidates: await sha256Of(options.candidates) }
  const report = {
    ...reportOf(instance, allocation, options.policy),
    inputs,
    timings,
    peakMemoryBytes: process.resourceUsage().maxRSS * 1024,
  }
  writeWhole(options.report, `${JSON.stringify(report, null, 2)}\n`)
  console.log(wordsOf(allocation, options))
  return allocation.standing === 'not certified' ? 3 : 0
}

function readOptions(args: string[]): Options | null {
  const text = { type: 'string' } as const
  const names = ['cities', 'candidates', 'policy', 'seed', 'out', 'report', ...costOptions] as const
  let values: Partial<Record<typeof names[number], string>> & { help?: boolean }
  try {
    values = parseArgs({ args, options: { ...Object.fromEntries(names.map(name => [name, text])), help: { type: 'boolean' } } }).values
  } catch (error) {
    throw new InputError(`${error instanceof Error ? error.message : 'bad options'}\n${help}`)
  }
  if (values.help) {
    console.log(help)
    return null
  }
  const { cities, candidates, out, report } = values
  const kind = policyKinds.find(name => name === values.policy)
  if (!cities || !candidates || !out || !report || values.policy === undefined) {
    throw new InputError(`--cities, --candidates, --policy, --out and --report must be given.\n${help}`)
  }
  if (!kind) throw new InputError(`--policy "${values.policy}" is not known; there are ${policyKinds.join(', ')}`)
  const seed = values.seed === undefined ? 0 : wholeNumber('--seed', values.seed)
  return { cities, candidates, out, report, policy: { kind, seed, staying: 0, ...costsOf(values) } }
}

/** The options that say what outcomes cost. */
export const costOptions = ['choice-costs', 'off-list-base', 'km-cap', 'unseated'] as const

/** The costs that options give, with the usual ones for the rest. @throws InputError with every fault. */
export function costsOf(values: Partial<Record<typeof costOptions[number], string>>): Costs {
  const whole = (name: typeof costOptions[number], usual: number) =>
    values[name] === undefined ? usual : wholeNumber(`--${name}`, values[name])
  const costs: Costs = {
    choiceCosts: values['choice-costs'] === undefined
      ? usualCosts.choiceCosts
      : values['choice-costs'].split(',').map(cost => wholeNumber('--choice-costs', cost.trim())),
    offListBase: whole('off-list-base', usualCosts.offListBase),
    kilometreCap: whole('km-cap', usualCosts.kilometreCap),
    unseated: whole('unseated', usualCosts.unseated),
  }
  const faults = policyFaults({ ...costs, kind: 'best-fit', seed: 0, staying: 0 })
  if (faults.length > 0) throw new InputError(`the policy cannot be used:\n${faults.map(fault => `  ${fault}`).join('\n')}`)
  return costs
}

export function wholeNumber(name: string, text: string): number {
  if (!/^\d{1,15}$/.test(text)) throw new InputError(`${name} "${text}" is not a whole number of 0 or more`)
  return Number(text)
}

/** A line for each candidate, in the order of ids; written aside and then put in its place, so that no half file is left. */
async function writeAllotment(path: string, instance: Instance, { cityOf }: Allocation): Promise<void> {
  const file = await open(`${path}.part`, 'w').catch((error: unknown) => {
    throw new InputError(`${path} cannot be written: ${error instanceof Error ? error.message : ''}`)
  })
  try {
    await file.write('candidate,city\n')
    for (let from = 0; from < cityOf.length; from += 10_000) {
      const rows = instance.ids.slice(from, from + 10_000).map((
        id,
        i,
      ) => [id, cityOf[from + i] === noCity ? '' : instance.cities[cityOf[from + i] ?? 0]?.id ?? ''])
      await file.write(stringify(rows))
    }
  } finally {
    await file.close()
  }
  renameSync(`${path}.part`, path)
}

/** Writes a file aside and then puts it in its place, so that no half file is left. */
export function writeWhole(path: string, text: string): void {
  try {
    writeFileSync(`${path}.part`, text)
    renameSync(`${path}.part`, path)
  } catch (error) {
    throw new InputError(`${path} cannot be written: ${error instanceof Error ? error.message : ''}`)
  }
}

/** What a report says of the placement itself: the same for the same input. */
function reportOf(instance: Instance, allocation: Allocation, { kind, ...parameters }: AllocationPolicy) {
  const { people, byChoice, offList, unseated, cities } = outcomeOf(instance, allocation)
  const share = (count: number) => ({ people: count, share: count / people })
  return {
    policy: kind,
    parameters,
    candidates: people,
    cities: cities.length,
    cost: allocation.cost,
    bound: allocation.bound,
    certified: allocation.standing === 'certified',
    standing: allocation.standing,
    shares: { choices: byChoice.map(share), offList: share(offList), unseated: share(unseated) },
    unseated,
    prices: cities.map(city => ({
      city: city.city,
      seat: city.price,
      accessibleSeat: city.accessiblePrice,
      placed: city.placed,
      capacity: city.capacity,
    })),
  }
}

function wordsOf({ cost, bound, standing }: Allocation, { out, report }: Options): string {
  const proof = {
    'certified': `cost ${cost}, bound ${bound}: no placement costs less.`,
    'by policy': `cost ${cost} by the policy's order; the best fit would cost ${bound}.`,
    'bounded': `cost ${cost}, bound ${bound}: nothing cheaper is known.`,
    'not certified': `NOT CERTIFIED: cost ${cost}, but the bound is ${bound}. Do not publish this placement.`,
  }
  return `${proof[standing]}\nallotment in ${out}, report in ${report}`
}

interface Moment {
  wall: number
  cpu: NodeJS.CpuUsage
}
const clock = (): Moment => ({ wall: performance.now(), cpu: process.cpuUsage() })

/** Seconds of the clock and of the processor. */
function between(from: Moment, to: Moment): { seconds: number, cpuSeconds: number } {
  const cpu = to.cpu.user + to.cpu.system - from.cpu.user - from.cpu.system
  return { seconds: Math.round(to.wall - from.wall) / 1000, cpuSeconds: Math.round(cpu / 1000) / 1000 }
}

export async function sha256Of(path: string): Promise<string> {
  const hash = createHash('sha256')
  for await (const piece of createReadStream(path)) hash.update(piece as Buffer)
  return hash.digest('hex')
}
