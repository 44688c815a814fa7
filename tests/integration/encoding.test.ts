import { spawnSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { afterEach, describe, expect, it } from 'vitest'
import { readTextAs, textStream } from '../../cli/text'

/** Lists come out of programs that write other character sets: letters are never broken without a word. */
const folder = mkdtempSync(join(tmpdir(), 'lucid-encoding-'))
const file = (content: Buffer | string, name = 'list.csv') => {
  writeFileSync(join(folder, name), content)
  return join(folder, name)
}
async function read(path: string): Promise<string> {
  let text = ''
  for await (const piece of textStream(path)) text += String(piece)
  return text
}
afterEach(() => readTextAs('utf-8'))

describe('a text file', () => {
  it('in UTF-8 is read as it was written, wherever pieces are cut', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.string({ unit: 'binary', maxLength: 200 }),
        fc.integer({ min: (1 << 20) - 8, max: 1 << 20 }),
        async (text, before) => {
          const whole = 'x'.repeat(before) + text
          expect(await read(file(whole)) === whole).toBe(true)
        },
      ),
      { numRuns: 25 },
    )
  })

  it('that is no UTF-8 is refused with line and byte', async () => {
    const latin = Buffer.from('id,name\n1,Ann\n2,Osk-Anund\xe9\n', 'latin1')
    await expect(read(file(latin))).rejects.toThrow('line 3: the byte E9 (byte 26 of the file) is no UTF-8')
    await expect(read(file(Buffer.concat([Buffer.from('a\n'.repeat(700_000)), latin])))).rejects
      .toThrow('line 700003: the byte E9 (byte 1400026 of the file)')
    await expect(read(file(Buffer.from([0x61, 0xc3])))).rejects.toThrow('byte C3 (byte 2 of the file)')
    await expect(read(file(Buffer.from('\ufeffid', 'utf16le')))).rejects.toThrow('--encoding utf-16le')
  })

  it('is converted when it is said in what it is', async () => {
    readTextAs('windows-1252')
    expect(await read(file(Buffer.from([0x80, 0xe9, 0x9c])))).toBe('€éœ')
    readTextAs('UTF-16LE')
    expect(await read(file(Buffer.from('\ufeffÅsa', 'utf16le')))).toBe('Åsa')
    expect(() => readTextAs('cuneiform')).toThrow('not known')
  })
})

it('the command line refuses a list in Latin-1 and takes it with its name', () => {
  const cities = file('id,lat,lon,capacity,accessible_capacity\nlohn,54,10,5,1\n', 'cities.csv')
  const candidates = file(Buffer.from('id,home,prefs,needs_accessible\nHans\xe9,lohn,lohn,0\n', 'latin1'), 'candidates.csv')
  const run = (...more: string[]) =>
    spawnSync('./bin/lucid', ['allocate', '--cities', cities, '--candidates', candidates, '--policy', 'best-fit', '--out',
      join(folder, 'out.csv'), '--report', join(folder, 'report.json'), ...more], { encoding: 'utf8' })
  const refused = run()
  expect(refused.status).toBe(2)
  expect(refused.stderr).toContain('candidates.csv, line 2: the byte E9')
  const taken = run('--encoding', 'latin1')
  expect([taken.status, taken.stderr]).toEqual([0, ''])
})
