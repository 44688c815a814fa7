import { execFile, spawn } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { parse } from 'csv-parse/sync'
import { describe, expect, it, vi } from 'vitest'
import { InputError } from '../../cli/input'
import { sittings } from '../../cli/sittings'

const folder = mkdtempSync(join(tmpdir(), 'lucid-sittings-'))
const files = {
  cities: 'id,lat,lon\na,0,0\nb,0,1\nc,0,5\n',
  seats: 'city,session,capacity,accessible_capacity\na,one,2,1\na,two,1,0\nb,one,2,1\nb,two,2,1\nc,one,5,2\nc,two,5,2\n',
  papers: 'paper,sessions,closed\nlaw,one;two,\nengines,two,c\n',
  candidates:
    'id,home,prefs,needs_accessible,papers,party,tags\n1,a,a,0,law;engines,,\n2,a,a;b,1,law,h,\n3,a,a;b,0,law,h,\n4,b,b,0,engines,,women\n5,b,b,0,engines,,\n6,b,b,0,engines,,\n',
  reserved: 'city,session,for,seats\nb,two,women,1\n',
  near: 'tag,km\nnear,200\n',
}
type Files = Partial<Record<keyof typeof files, string>>
const [out, report] = [join(folder, 'out.csv'), join(folder, 'report.json')]

async function run(change: Files = {}, ...more: string[]): Promise<{ code: number, message: string }> {
  rmSync(out, { force: true })
  const args = Object.entries({ ...files, ...change }).flatMap(([name, text]) => {
    writeFileSync(join(folder, `${name}.csv`), text)
    return [`--${name}`, join(folder, `${name}.csv`)]
  })
  try {
    return { code: await sittings([...args, '--out', out, '--report', report, ...more]), message: '' }
  } catch (error) {
    if (!(error instanceof InputError)) throw error
    return { code: 2, message: error.message }
  }
}

describe('lucid sittings', () => {
  it('places people with several papers in one city, parties together, reserved seats for those they are for', async () => {
    expect(await run()).toEqual({ code: 0, message: '' })
    const rows = parse(readFileSync(out, 'utf8'), { columns: true }) as { candidate: string, city: string, sittings: string }[]
    expect(rows.map(r => r.candidate)).toEqual(['1', '2', '3', '4', '5', '6'])
    expect(rows[0]).toMatchObject({ city: 'a', sittings: 'law=one;engines=two' })
    expect(rows[1]?.city).toBe(rows[2]?.city)
    // One of the two afternoon seats of b is kept for 4; 5 and 6 have the other, and engines are not held in c.
    expect(rows[3]).toMatchObject({ city: 'b', sittings: 'engines=two' })
    expect([rows[4]?.city, rows[5]?.city].sort()).toEqual(['', 'b'])
    expect(JSON.parse(readFileSync(report, 'utf8'))).toMatchObject({
      candidates: 6,
      unseated: 1,
      standing: expect.stringMatching(/^certified$|bounded/) as unknown,
    })
    // One person without a seat costs a million points: the bound comes within a thousandth of all that.
    expect((JSON.parse(readFileSync(report, 'utf8')) as { gap: number }).gap).toBeLessThan(0.001)
  })

  it.each<[Files, string[], string]>([
    [{ candidates: files.candidates.replace('law;engines', 'law;poetry') }, [], 'line 2: candidate 1: paper "poetry"'],
    [{ candidates: files.candidates.replace('1,a,a,0', '1,z,a;a,2') }, [], 'home "z" is not among the cities'],
    [{ seats: `${files.seats}z,one,1,0\na,one,1,2\n` }, [], 'line 8: city "z"'],
    [{ papers: 'paper,sessions\nlaw,noon\n' }, [], 'session "noon" has no seats anywhere'],
    [{ reserved: 'city,session,for,seats\nb,two,women,9\n' }, [], '9 reserved seats are more than all 2'],
    [{ near: 'tag,km\nnear,-1\n' }, [], 'km "-1"'],
    [{}, ['--colliding', 'one+noon'], 'does not name two sessions'],
    [{}, ['--choice-costs', '3,1'], 'choice costs fall'],
  ])('refuses %j %j and writes nothing', async (change, more, wanted) => {
    expect(await run(change, ...more)).toMatchObject({ code: 2, message: expect.stringContaining(wanted) as unknown })
    expect(existsSync(out)).toBe(false)
  })

  it('writes the best so far, within all limits and with a bound, when its time is up, wherever it is called from', async () => {
    const places = Array.from({ length: 12 }, (_, k) => `c${k}`)
    const people = Array.from(
      { length: 4000 },
      (_, i) =>
        `${i + 1},c${i * 7 % 12},c${i * i % 12},${i % 20 === 0 ? 1 : 0},${['law', 'engines', 'law;engines'][i % 3]},${
          i % 9 === 0 ? `h${Math.floor(i / 18)}` : ''
        },${i % 5 === 0 ? 'women' : ''}`,
    )
    const made = {
      cities: `id,lat,lon\n${places.map((id, k) => `${id},${k % 4},${k % 5}`).join('\n')}\n`,
      seats: `city,session,capacity,accessible_capacity\n${
        places.flatMap(id => ['one', 'two'].map(s => `${id},${s},240,30`)).join('\n')
      }\n`,
      papers: 'paper,sessions\nlaw,one;two\nengines,two\n',
      candidates: `id,home,prefs,needs_accessible,papers,party,tags\n${people.join('\n')}\n`,
      reserved: 'city,session,for,seats\nc0,two,women,40\n',
    }
    rmSync(out, { force: true })
    for (const [name, text] of Object.entries(made)) writeFileSync(join(folder, `${name}.csv`), text)
    const args = Object.keys(made).flatMap(name => [`--${name}`, `${name}.csv`])
    const [command, options] = [join(import.meta.dirname, '../../bin/lucid'), ['sittings', ...args, '--out', out, '--report', report]]
    const { stdout } = await promisify(execFile)(command, [...options, '--seconds', '1'], { cwd: folder })
    expect(stdout).toContain('It was stopped before the end.')
    rmSync(out, { force: true })
    // Interrupted as soon as it tells how far it is.
    const running = spawn(command, options, { cwd: folder })
    running.stderr.once('data', () => running.kill('SIGINT'))
    expect(await new Promise(resolve => running.on('close', resolve))).toBe(0)
    expect(existsSync(out)).toBe(true)
    const told = JSON.parse(readFileSync(report, 'utf8')) as { stopped: boolean, bound: number, cost: number, candidates: number }
    expect(told).toMatchObject({ stopped: true, candidates: 4000 })
    expect(told.bound).toBeGreaterThan(0)
    const rows = parse(readFileSync(out, 'utf8'), { columns: true }) as { city: string, sittings: string }[]
    for (const city of places) {
      for (const s of ['one', 'two']) {
        expect(rows.filter(row => row.city === city && row.sittings.split(';').some(sat => sat.endsWith(`=${s}`))).length)
          .toBeLessThanOrEqual(240)
      }
    }
  })

  it('says that seats are kept for whom nobody is', async () => {
    const told = vi.spyOn(console, 'error').mockImplementation(() => undefined)
    await run({ reserved: 'city,session,for,seats\nb,two,wimen,1\nb,one,law,1\n' })
    expect(told).toHaveBeenCalledWith('lucid: seats are kept for wimen (session two), and no candidate may sit on them.')
    told.mockRestore()
  })

  it('lets nobody sit colliding sessions', async () => {
    await run({}, '--colliding', 'one+two')
    expect(readFileSync(out, 'utf8')).toContain('\n1,,\n')
  })
})
