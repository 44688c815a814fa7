import { execFileSync } from 'node:child_process'
import { createWriteStream, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { once } from 'node:events'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import loadHighs from 'highs'
import { readInstance } from '../cli/allocation-files'
import { allocate } from '../core/allocation/allocate'
import { solveBestFit } from '../core/allocation/best-fit'
import { lowerBound } from '../core/allocation/certificate'
import { InstanceBuilder, type Instance } from '../core/allocation/instance'
import { optionTable, totalCost } from '../core/allocation/option-table'
import { choiceCost, distanceKm, offListCost, usualCosts, type AllocationPolicy } from '../core/allocation/policy'
import { easy, hard, makeInstance, scarce, type MadeInstance, type Shape } from './allocation-instances'

/**
 * The allocation at size. READ is our own parse of the candidates' CSV into arrays; SOLVE the option table and the exact solver; RUN
 * the whole of a run: SOLVE, justice between equals, cost, bound. CPU time of the process, best of three, by turns.
 * `npx tsx bench/allocation.ts [kind people cities]`; without arguments the whole table, each line in a process of its own.
 */
const policy: AllocationPolicy = { kind: 'best-fit', seed: 0, staying: 0, ...usualCosts }
const kinds: Record<string, Omit<Shape, 'people' | 'cities'>> = {
  easy,
  hard,
  scarce,
  'too few': { ...hard, room: 0.9 },
  'threefold': { ...hard, over: 2, room: 1.05 },
}
const table: [string, number, number][] = [
  ['easy', 100_000, 200],
  ['hard', 100_000, 200],
  ['easy', 1_000_000, 200],
  ['hard', 1_000_000, 200],
  ['scarce', 1_000_000, 200],
  ['too few', 1_000_000, 200],
  ['easy', 1_000_000, 500],
  ['hard', 1_000_000, 500],
  ['scarce', 1_000_000, 500],
  ['threefold', 1_000_000, 200],
]

const cpu = () => {
  const { user, system } = process.cpuUsage()
  return (user + system) / 1e6
}
const made = (kind: string, people: number, cities: number): MadeInstance => {
  const shape = kinds[kind]
  if (!shape) throw new Error(`"${kind}" is not a kind; there are ${Object.keys(kinds).join(', ')}`)
  return makeInstance({ people, cities, ...shape }, 7)
}

async function writeCsv(folder: string, { cities, people }: MadeInstance): Promise<[string, string]> {
  const paths: [string, string] = [join(folder, 'cities.csv'), join(folder, 'candidates.csv')]
  writeFileSync(
    paths[0],
    `id,lat,lon,capacity,accessible_capacity\n${
      cities.map(c => `${c.id},${c.lat},${c.lon},${c.capacity},${c.accessibleCapacity}\n`).join('')
    }`,
  )
  const out = createWriteStream(paths[1])
  let text = 'id,home,prefs,needs_accessible\n'
  const name = (k: number) => cities[k]?.id ?? ''
  for (const p of people) {
    text += `${p.id},${name(p.home)},${p.choices.map(name).join(';')},${p.needs ? 1 : 0}\n`
    if (text.length < 1 << 20) continue
    if (!out.write(text)) await once(out, 'drain')
    text = ''
  }
  out.end(text)
  await once(out, 'finish')
  return paths
}

async function measureTime(kind: string, people: number, cities: number): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'allocation-'))
  try {
    const paths = await writeCsv(folder, made(kind, people, cities))
    const best = { read: Infinity, solve: Infinity, run: Infinity }
    let certified = true
    for (let round = 0; round < 3; round += 1) {
      let since = cpu()
      const instance = await readInstance(...paths)
      best.read = Math.min(best.read, cpu() - since)
      since = cpu()
      const options = optionTable(instance, policy)
      const { cityOf, prices } = solveBestFit(options)
      best.solve = Math.min(best.solve, cpu() - since)
      certified &&= totalCost(options, cityOf) === lowerBound(options, prices)
      since = cpu()
      certified &&= allocate(instance, policy).standing === 'certified'
      best.run = Math.min(best.run, cpu() - since)
    }
    process.stdout.write(JSON.stringify({ ...best, certified }))
  } finally {
    rmSync(folder, { recursive: true })
  }
}

/**
 * Memory above the loaded instance, at most: the highest resident memory of the whole process, making the instance included, less that with
 * the instance loaded.
 */
function measureMemory(kind: string, people: number, cities: number): void {
  const instance = instanceOf(made(kind, people, cities))
  const collect = (globalThis as { gc?: () => void }).gc
  collect?.()
  const before = process.memoryUsage.rss()
  allocate(instance, policy)
  process.stdout
    .write(JSON.stringify({ megabytes: (process.resourceUsage().maxRSS * 1024 - before) / 2 ** 20, instance: before / 2 ** 20 }))
}

function instanceOf({ cities, people }: MadeInstance): Instance {
  const builder = new InstanceBuilder(cities, 5, 'row')
  let turn = 0
  for (const person of people) {
    builder.add({ ...person, turn })
    turn += 1
  }
  return builder.build()
}

/** Our solver and HiGHS on the plain formulation of the same instance. */
async function measureHighs(people: number, cities: number): Promise<void> {
  const instance = instanceOf(made('hard', people, cities))
  const model = plainFormulation(instance)
  const highs = await loadHighs()
  let since = cpu()
  const optimum = Math.round(highs.solve(model).ObjectiveValue)
  const theirs = cpu() - since
  let ours = Infinity
  for (let round = 0; round < 3; round += 1) {
    since = cpu()
    const { cost } = allocate(instance, policy)
    ours = Math.min(ours, cpu() - since)
    if (cost !== optimum) throw new Error(`cost ${cost}, HiGHS ${optimum}`)
  }
  process.stdout.write(JSON.stringify({ highs: theirs, ours, ratio: theirs / ours }))
}

function plainFormulation({ cities, home, choices, slots, needs, ids }: Instance): string {
  const objective: string[] = []
  const seated: string[] = []
  const all: string[][] = cities.map(() => [])
  const inNeed: string[][] = cities.map(() => [])
  ids.forEach((_, i) => {
    const list = [...choices.subarray(i * slots, (i + 1) * slots)]
    const from = cities[home[i] ?? 0] ?? { lat: 0, lon: 0 }
    cities.forEach((city, k) => {
      const place = list.indexOf(k)
      objective.push(`${place >= 0 ? choiceCost(policy, place) : offListCost(policy, distanceKm(from, city))} x${i}_${k}`)
      all[k]?.push(`x${i}_${k}`)
      if (needs[i] === 1) inNeed[k]?.push(`x${i}_${k}`)
    })
    objective.push(`${policy.unseated} u${i}`)
    seated.push(`${cities.map((_, k) => `x${i}_${k}`).join('\n + ')} + u${i} = 1`)
  })
  const limits = cities.flatMap((
    city,
    k,
  ) => [`${all[k]?.join('\n + ')} <= ${city.capacity}`,
    ...(inNeed[k]?.length ? [`${inNeed[k].join('\n + ')} <= ${city.accessibleCapacity}`] : [])]
  )
  return `Minimize\n obj: ${objective.join('\n + ')}\nSubject To\n ${[...seated, ...limits].join('\n ')}\nEnd`
}

const [task = '', people = '', cities = ''] = process.argv.slice(2)
const child = (...args: (string | number)[]) =>
  JSON.parse(execFileSync(process.execPath, ['--expose-gc', '--import', 'tsx', import.meta.filename, ...args.map(String)], {
    encoding: 'utf8',
    maxBuffer: 1 << 24,
    stdio: ['ignore', 'pipe', 'inherit'],
  })) as Record<string, number>

function line(kind: string, n: number, k: number): void {
  const time = child(kind, n, k)
  const { megabytes, instance } = child(`memory:${kind}`, n, k)
  const { read = 0, solve = 0, run = 0 } = time
  console
    .log(`| ${kind} | ${n.toLocaleString('en-GB')} x ${k} | ${read.toFixed(2)} s | ${solve.toFixed(2)} s | ${(solve / read).toFixed(2)} | ${
      run.toFixed(2)
    } s | ${(run / read).toFixed(2)} | ${megabytes?.toFixed(0)} MB | ${instance?.toFixed(0)} MB | ${time.certified ? 'yes' : 'NO'} |`)
}

if (task === 'highs') {
  await measureHighs(Number(people), Number(cities))
} else if (task.startsWith('memory:')) {
  measureMemory(task.slice(7), Number(people), Number(cities))
} else if (task !== '') {
  await measureTime(task, Number(people), Number(cities))
} else {
  console
    .log('| kind | size | READ | SOLVE | ratio | RUN | ratio | memory above | process with instance | certified |\n|---|---|---|---|---|---|---|---|---|---|')
  for (const [kind, n, k] of table) line(kind, n, k)
  const { highs = 0, ours = 0, ratio = 0 } = child('highs', 10_000, 50)
  console.log(`HiGHS on 10,000 x 50 (hard): ${highs.toFixed(1)} s, ours ${ours.toFixed(3)} s, ${ratio.toFixed(0)} times`)
}
