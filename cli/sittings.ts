import { parseArgs } from 'node:util'
import { stringify } from 'csv-stringify/sync'
import { partyFaults, type PartyInstance } from '../core/allocation/parties/model'
import { placeParties, type PartyResult } from '../core/allocation/parties/place'
import { costOptions, costsOf, writeWhole } from './allocate'
import { InputError } from './input'
import { readSittings } from './sittings-files'

const help = `lucid sittings --cities cities.csv --seats seats.csv --papers papers.csv --candidates candidates.csv
  [--reserved reserved.csv] [--near near.csv] [--colliding one+two,two+three] [costs as in lucid allocate] --out sittings.csv --report report.json

Places candidates who sit several papers, all in one city and no two at once, and parties who are kept together; tells a proven bound.
Formats: docs/formats.md. Exit code 0: a placement within all limits, with its gap; 2: bad input; 3: not certified.`

/** Places candidates with several papers; the exit code. */
export async function sittings(args: string[]): Promise<number> {
  const text = { type: 'string' } as const
  const names = ['cities', 'seats', 'papers', 'candidates', 'reserved', 'near', 'colliding', 'out', 'report', ...costOptions] as const
  let values: Partial<Record<typeof names[number], string>> & { help?: boolean }
  try {
    values = parseArgs({ args, options: { ...Object.fromEntries(names.map(name => [name, text])), help: { type: 'boolean' } } }).values
  } catch (error) {
    throw new InputError(`${error instanceof Error ? error.message : 'bad options'}\n${help}`)
  }
  if (values.help) {
    console.log(help)
    return 0
  }
  const { cities, seats, papers, candidates, out, report } = values
  if (!cities || !seats || !papers || !candidates || !out || !report) throw new InputError(`--cities, --seats, --papers, --candidates, --out and --report must be given.\n${help}`)
  const costs = costsOf(values)
  const instance = await readSittings({ cities, seats, papers, candidates, reserved: values.reserved, near: values.near, colliding: values.colliding })
  const faults = partyFaults(instance)
  if (faults.length > 0) throw new InputError(faults.map(fault => `  ${fault}`).join('\n'))
  const result = placeParties(instance, costs)
  writeWhole(out, `candidate,city,sittings\n${stringify(rowsOf(instance, result))}`)
  writeWhole(report, `${JSON.stringify(reportOf(instance, result, costs), null, 2)}\n`)
  console.log(`cost ${result.cost}, bound ${result.bound}: ${result.standing === 'certified' ? 'no placement costs less' : `at most ${(result.gap * 100).toFixed(2)} % above the least there is`}.\nsittings in ${out}, report in ${report}`)
  return result.standing === 'not certified' ? 3 : 0
}

function rowsOf({ people, cities, papers, sessions }: PartyInstance, result: PartyResult): string[][] {
  const rows = people.map((person, i) => [
    person.id, cities[result.city[i] ?? -1]?.id ?? '', person.papers.map((paper, j) => `${papers[paper]?.id}=${sessions[result.sessions[i]?.[j] ?? -1] ?? ''}`).filter(() => (result.city[i] ?? -1) >= 0).join(';'),
  ])
  return rows.sort((a, b) => (a[0] ?? '') < (b[0] ?? '') ? -1 : 1)
}

function reportOf(instance: PartyInstance, result: PartyResult, costs: object) {
  const choice = instance.people.map((person, i) => (result.city[i] ?? -1) < 0 ? -2 : person.choices.indexOf(result.city[i] ?? -1))
  const counted = (at: number) => choice.filter(c => c === at).length
  const longest = Math.max(...instance.people.map(p => p.choices.length))
  return {
    policy: 'best-fit', parameters: costs, candidates: instance.people.length, cost: result.cost, bound: result.bound, gap: result.gap, standing: result.standing,
    certified: result.standing === 'certified', choices: Array.from({ length: longest }, (_, place) => counted(place)), offList: counted(-1), unseated: counted(-2),
  }
}
