import { parseArgs } from 'node:util'
import { Worker } from 'node:worker_threads'
import { stringify } from 'csv-stringify/sync'
import type { Allocation } from '../core/allocation/allocation'
import { noCity, type Instance } from '../core/allocation/instance'
import type { AllocationPolicy } from '../core/allocation/policy'
import { costOptions, costsOf, sha256Of, wholeNumber, writeWhole } from './allocate'
import { InputError } from './input'
import { readSittings, type SittingsFiles } from './sittings-files'
import type { SittingsAsk, SittingsTold } from './sittings-solver'

const help = `lucid sittings --cities cities.csv --seats seats.csv --papers papers.csv --candidates candidates.csv
  [--reserved reserved.csv] [--near near.csv] [--colliding one+two,two+three] [costs as in lucid allocate] [--seconds n] --out sittings.csv --report report.json

Places candidates who sit several papers, all in one city and no two at once, and parties who are kept together; tells a proven bound.
After --seconds, or when it is interrupted (Ctrl-C), the best placement so far is written; a second Ctrl-C writes nothing.
Formats: docs/formats.md. Exit code 0: a placement within all limits, with its gap; 2: bad input; 3: not certified.`

/** Places candidates with several papers; the exit code. */
export async function sittings(args: string[]): Promise<number> {
  const text = { type: 'string' } as const
  const names = ['cities', 'seats', 'papers', 'candidates', 'reserved', 'near', 'colliding', 'seconds', 'out', 'report',
    ...costOptions] as const
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
  if (!cities || !seats || !papers || !candidates || !out || !report) {
    throw new InputError(`--cities, --seats, --papers, --candidates, --out and --report must be given.\n${help}`)
  }
  const policy: AllocationPolicy = { kind: 'best-fit', seed: 0, staying: 0, ...costsOf(values) }
  const seconds = values.seconds === undefined ? Infinity : wholeNumber('--seconds', values.seconds)
  const files: SittingsFiles = {
    cities,
    seats,
    papers,
    candidates,
    reserved: values.reserved,
    near: values.near,
    colliding: values.colliding,
  }
  const instance = await readSittings(files)
  const { result, stopped } = await placed(instance, policy, seconds)
  writeWhole(out, `candidate,city,sittings\n${stringify(rowsOf(instance, result))}`)
  const inputs = Object
    .fromEntries(await Promise
      .all(Object.entries(files).flatMap(([name, path]) =>
        name === 'colliding' || path === undefined ? [] : [sha256Of(path).then(hash => [name, hash])]
      )))
  writeWhole(report, `${JSON.stringify({ ...reportOf(instance, result, policy), stopped, inputs }, null, 2)}\n`)
  console.log(`${wordsOf(result)}${stopped ? ' It was stopped before the end.' : ''}\nsittings in ${out}, report in ${report}`)
  return result.standing === 'not certified' ? 3 : 0
}

/** Places people beside this thread, which tells every few seconds how far it is, and hears when it is to stop. */
function placed(instance: Instance, policy: AllocationPolicy, seconds: number): Promise<{ result: Allocation, stopped: boolean }> {
  const enough = new Int32Array(new SharedArrayBuffer(4))
  const workerData: SittingsAsk = { instance, policy, enough }
  const worker = new Worker(new URL('./sittings-thread.mjs', import.meta.url), { workerData })
  const stop = () => {
    Atomics.store(enough, 0, 1)
  }
  const interrupted = () => {
    if (Atomics.load(enough, 0) === 1) process.exit(130)
    console.error('lucid: stopping; the best placement so far will be written')
    stop()
  }
  process.on('SIGINT', interrupted)
  const timer = seconds < Infinity ? setTimeout(stop, Math.min(seconds * 1000, 2 ** 31 - 1)) : undefined
  let told = performance.now()
  return new Promise<{ result: Allocation, stopped: boolean }>((resolve, reject) => {
    worker.on('message', (message: SittingsTold) => {
      if ('result' in message) return resolve({ result: message.result, stopped: Atomics.load(enough, 0) === 1 })
      if (performance.now() - told < 3000) return
      told = performance.now()
      const { done, total, known: { cost, bound } } = message
      console
        .error(`lucid: ${done} of ${total} steps; cost ${cost}, bound ${bound}${
          cost < 10 * bound ? `, ${percent(cost, bound)} above it` : ''
        }`)
    })
    worker.on('error', reject)
    worker.on('exit', status => reject(new Error(`the thread that places people ended with ${status}`)))
  }).finally(() => {
    clearTimeout(timer)
    process.off('SIGINT', interrupted)
    void worker.terminate()
  })
}

const gapOf = (cost: number, bound: number) => cost === bound ? 0 : (cost - bound) / Math.max(1, bound)
const percent = (cost: number, bound: number) => `${(gapOf(cost, bound) * 100).toFixed(2)} %`

function wordsOf({ cost, bound, standing }: Allocation): string {
  if (standing === 'not certified') return `NOT CERTIFIED: cost ${cost}, bound ${bound}. Do not publish this placement.`
  return `cost ${cost}, bound ${bound}: ${
    standing === 'certified' ? 'no placement costs less.' : `at most ${percent(cost, bound)} above the least there is.`
  }`
}

function rowsOf({ ids, cities, sittings }: Instance, { cityOf, sittings: outcome }: Allocation): string[][] {
  return ids.map((id, person) => {
    const city = cityOf[person] ?? noCity
    const kind = sittings?.kinds[sittings.kindOf[person] ?? 0]
    const way = city === noCity ? [] : kind?.ways[outcome?.wayOf[person] ?? 0] ?? []
    return [id, city === noCity ? '' : cities[city]?.id ?? '',
      way.map((column, i) => `${kind?.papers[i]}=${sittings?.sessions[column]}`).join(';')]
  })
}

function reportOf(
  { ids, slots, choices }: Instance,
  { cityOf, cost, bound, standing }: Allocation,
  { kind, ...parameters }: AllocationPolicy,
) {
  const byChoice = Array.from({ length: slots }, () => 0)
  let [offList, unseated] = [0, 0]
  cityOf.forEach((city, person) => {
    const place = choices.subarray(person * slots, (person + 1) * slots).indexOf(city)
    if (city === noCity) unseated += 1
    else if (place < 0) offList += 1
    else byChoice[place] = (byChoice[place] ?? 0) + 1
  })
  return {
    policy: kind,
    parameters,
    candidates: ids.length,
    cost,
    bound,
    gap: gapOf(cost, bound),
    standing,
    certified: standing === 'certified',
    choices: byChoice,
    offList,
    unseated,
  }
}
