import { execFile } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { promisify } from 'node:util'
import { parse } from 'csv-parse/sync'
import { beforeEach, describe, expect, it } from 'vitest'
import { allocate as allocateCommand } from '../../cli/allocate'
import { InputError } from '../../cli/input'
import { allocate } from '../../core/allocation/allocate'
import { hard, makeInstance } from '../../bench/allocation-instances'
import { instanceOf, policy } from '../support/instances'

const folder = mkdtempSync(join(tmpdir(), 'lucid-allocate-'))
const [out, report] = [join(folder, 'allotment.csv'), join(folder, 'report.json')]
beforeEach(() => {
  rmSync(out, { force: true })
  rmSync(report, { force: true })
})

interface Ran {
  code: number
  stderr: string
}
/** The tool as it is called by `bin/lucid`, in this process: a new one for each case would take a minute. */
async function lucid(...args: string[]): Promise<Ran> {
  try {
    return { code: await allocateCommand(args), stderr: '' }
  } catch (error) {
    if (!(error instanceof InputError)) throw error
    return { code: 2, stderr: error.message }
  }
}
async function lucidItself(...args: string[]): Promise<Ran & { stdout: string }> {
  try {
    return { code: 0, ...await promisify(execFile)(resolve(import.meta.dirname, '../../bin/lucid'), args) }
  } catch (error) {
    const { code, stdout, stderr } = error as Ran & { stdout: string }
    return { code, stdout, stderr }
  }
}
function run(cities: string, candidates: string, ...more: string[]): Promise<Ran> {
  const paths = [join(folder, 'cities.csv'), join(folder, 'candidates.csv')] as const
  writeFileSync(paths[0], cities)
  writeFileSync(paths[1], candidates)
  return lucid(
    '--cities',
    paths[0],
    '--candidates',
    paths[1],
    '--out',
    out,
    '--report',
    report,
    ...(more.includes('--policy') ? [] : ['--policy', 'best-fit']),
    ...more,
  )
}
const allotment = () => parse(readFileSync(out, 'utf8'), { columns: true }) as { candidate: string, city: string }[]
const reported = () => JSON.parse(readFileSync(report, 'utf8')) as Record<string, unknown>

const cityHead = 'id,lat,lon,capacity,accessible_capacity'
const headOf = 'id,home,prefs,needs_accessible'
const cities = `${cityHead}\na,0,0,1,0\nb,0,1,1,1\nc,0,5,1,0\n`
const made = makeInstance({ people: 400, cities: 7, ...hard, needing: 0.1 }, 9)
const madeCities = `${cityHead}\n${made.cities.map(c => [c.id, c.lat, c.lon, c.capacity, c.accessibleCapacity].join(',')).join('\n')}\n`
const madeRows = [...made.people].map(p =>
  [p.id, made.cities[p.home]?.id, p.choices.map(k => made.cities[k]?.id).join(';'), p.needs ? 'true' : 'false'].join(',')
)

describe('lucid allocate', () => {
  it('places everyone as the core does, says what it is worth, and ends with 0', async () => {
    await run(madeCities, `${headOf}\n${madeRows.join('\n')}\n`)
    const { code, stdout } = await lucidItself(
      'allocate',
      '--cities',
      join(folder, 'cities.csv'),
      '--candidates',
      join(folder, 'candidates.csv'),
      '--policy',
      'best-fit',
      '--out',
      out,
      '--report',
      report,
    )
    const instance = instanceOf(made)
    const wanted = allocate(instance, policy)
    expect([code, stdout]).toEqual([0, expect.stringContaining(`cost ${wanted.cost}, bound ${wanted.cost}`)])
    expect(allotment())
      .toEqual(instance.ids.map((candidate, i) => ({ candidate, city: instance.cities[wanted.cityOf[i] ?? -1]?.id ?? '' })))
    expect(reported()).toMatchObject({
      policy: 'best-fit',
      parameters: { choiceCosts: [0, 1, 3, 6, 10], offListBase: 20, kilometreCap: 1000, unseated: 1_000_000 },
      candidates: 400,
      cost: wanted.cost,
      bound: wanted.cost,
      certified: true,
      unseated: expect.any(Number) as unknown,
      peakMemoryBytes: expect.any(Number) as unknown,
      timings: { read: { cpuSeconds: expect.any(Number) as unknown } },
    })
    expect((reported().prices as { city: string }[]).map(p => p.city)).toEqual(instance.cities.map(c => c.id))
  })

  it('writes the same bytes whatever the order of the rows, with BOM, CRLF and quotes', async () => {
    await run(madeCities, `${headOf}\n${madeRows.join('\n')}\n`)
    const first = readFileSync(out)
    const quoted = [...madeRows].reverse().map(row => row.split(',').map(cell => `"${cell}"`).join(',')).join('\r\n')
    expect((await run(`\uFEFF${madeCities.replaceAll('\n', '\r\n')}`, `\uFEFF${headOf}\r\n${quoted}\r\n`)).code).toBe(0)
    expect(readFileSync(out).equals(first)).toBe(true)
  })

  it('serves first come by applied_at, and else by row; the lottery by its seed', async () => {
    const stamps = ['2026-11-02T10:00:00+02:00', '2026-11-02T09:00:00Z', '2026-11-01']
    const timed = `${headOf},applied_at\n${[1, 2, 3].map(i => `${i},a,a;b,0,${stamps[i - 1]}`).join('\n')}\n`
    expect((await run(cities, timed, '--policy', 'first-come')).code).toBe(0)
    expect(allotment().map(r => r.city)).toEqual(['b', 'c', 'a'])
    await run(madeCities, `${headOf}\n${madeRows.join('\n')}\n`, '--policy', 'first-come')
    expect(reported()).toMatchObject({ policy: 'first-come', certified: false, standing: 'by policy' })
    await run(cities, `${headOf}\n${[3, 2, 1].map(i => `${i},a,a;b,0`).join('\n')}\n`, '--policy', 'first-come')
    expect(allotment().map(r => r.city)).toEqual(['c', 'b', 'a'])
    const drawn = new Set<string>()
    for (const seed of ['1', '2', '3', '4']) {
      await run(cities, timed, '--policy', 'lottery', '--seed', seed)
      drawn.add(allotment().map(r => r.city).join())
    }
    expect(drawn.size).toBeGreaterThan(1)
  })

  it('leaves the city of the unseated empty', async () => {
    await run(`${cityHead}\na,0,0,1,0\n`, `${headOf}\n1,a,a,1\n2,a,a,0\n3,a,a,0\n`)
    expect(allotment()).toEqual([{ candidate: '1', city: '' }, { candidate: '2', city: 'a' }, { candidate: '3', city: '' }])
    expect(reported()).toMatchObject({ unseated: 2, cost: 2_000_000 })
  })

  it.each([
    ['an unknown city', cities, `${headOf}\n1,a,a;z,0\n`, 'line 2: candidate 1: choice "z" is not among the cities'],
    ['an unknown home', cities, `${headOf}\n1,z,a,0\n`, 'line 2: candidate 1: home "z"'],
    ['a city twice in a list', cities, `${headOf}\n1,a,a;b;a,0\n`, 'line 2: candidate 1: city a stands twice'],
    ['no choice', cities, `${headOf}\n1,a,,0\n`, 'line 2: candidate 1: prefs name no city'],
    ['six choices', cities, `${headOf}\n1,a,a;b;c;a;b;c,0\n`, 'prefs name 6 cities; give 5 at most'],
    ['negative seats', `${cityHead}\na,0,0,-1,0\n`, `${headOf}\n1,a,a,0\n`, 'line 2: city a: capacity -1 is not a whole number'],
    ['more accessible seats than seats', `${cityHead}\na,0,0,1,2\n`, `${headOf}\n1,a,a,0\n`,
      'line 2: city a: 2 accessible seats are more than all its 1 seats'],
    ['a city twice', `${cityHead}\na,0,0,1,0\na,0,0,1,0\n`, `${headOf}\n1,a,a,0\n`, 'line 3: city a stood there before, on line 2'],
    ['a place off the globe', `${cityHead}\na,91,0,1,0\n`, `${headOf}\n1,a,a,0\n`, 'latitude 91'],
    ['a candidate twice', cities, `${headOf}\n1,a,a,0\n\n1,a,a,0\n`, 'line 4: candidate 1 stood there before, on line 2'],
    ['need that is neither yes nor no', cities, `${headOf}\n1,a,a,2\n`, 'needs_accessible "2"'],
    ['a day that is none', cities, `${headOf},applied_at\n1,a,a,0,2026-02-30\n`, 'applied_at "2026-02-30"'],
    ['a wrong column', cities, 'id,home,choices,needs_accessible\n1,a,a,0\n',
      'line 1: column "prefs" is missing; column "choices" is not known'],
    ['too few cells', cities, `${headOf}\n1,a,a\n`, 'line 2: 3 cells, but the header names 4'],
    ['quotes that do not close', cities, `${headOf}\n1,a,"a,0\n`, 'line 2: the quotes do not match'],
    ['an empty file', '', `${headOf}\n1,a,a,0\n`, 'cities.csv is empty'],
    ['a header and nothing else', cities, `${headOf}\n`, 'names no candidate'],
  ])('tells of %s by its line, writes nothing and ends with 2', async (_, badCities, badCandidates, wanted) => {
    const { code, stderr } = await run(badCities, badCandidates)
    expect([code, stderr]).toEqual([2, expect.stringContaining(wanted)])
    expect(existsSync(out) || existsSync(report)).toBe(false)
  })

  it('names all faults of both files, up to fifty of each, and how many more there are', async () => {
    const { stderr } = await run(
      `${cityHead}\na,0,0,1,3\n`,
      `${headOf}\n${Array.from({ length: 60 }, (_, i) => `${i},z,a,0`).join('\n')}\n`,
    )
    expect(stderr).toContain('cities.csv has 1 fault')
    expect(stderr).toContain('candidates.csv has 60 faults')
    expect(stderr.match(/^ {2}line /gm)?.length).toBe(51)
    expect(stderr).toContain('and 10 more')
  })

  it('ends with 2 as a command, too, and with 0 when it only tells how it is used', async () => {
    expect(await lucidItself('allocate', '--policy', 'best-fit')).toMatchObject({
      code: 2,
      stderr: expect.stringContaining('must be given') as unknown,
    })
    expect(await lucidItself('allocate', '--help')).toMatchObject({ code: 0, stdout: expect.stringContaining('--choice-costs') as unknown })
  })

  it.each([
    [['--policy', 'fairest'], '"fairest" is not known'],
    [['--choice-costs', '3,1'], 'choice costs fall'],
    [['--choice-costs', '0,x'], '"x" is not a whole number'],
    [['--off-list-base', '3'], 'below the last choice'],
    [['--unseated', '10'], 'not above the farthest'],
    [['--seed', '-1'], '--seed'],
    [['--colour', 'blue'], '--colour'],
  ])('refuses %j', async (options, wanted) => {
    const { code, stderr } = await run(cities, `${headOf}\n1,a,a,0\n`, ...options)
    expect([code, stderr]).toEqual([2, expect.stringContaining(wanted)])
  })
})
