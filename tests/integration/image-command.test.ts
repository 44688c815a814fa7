import { execFile } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { promisify } from 'node:util'
import pictureCode from 'virtual:picture-worker'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { imageSlot } from '../../core/application/slots'
import type { Finding } from '../../core/finding/finding'
import type { Notice } from '../../core/notice/schema'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { drawThumb, thumbFaults } from '../../demo/thumbs'
import { openFaceDetector } from '../../pictures/faces'
import { inspectorWith } from '../../pictures/inspect'
import { PictureThreads } from '../../server/workers/picture-threads'
import { sampleNotice } from '../support/sample'

const folder = mkdtempSync(join(tmpdir(), 'lucid-image-'))
const thumbRule: NonNullable<Notice['images']['thumb']> = {
  title: 'Thumb impression', formats: ['jpeg'], bytes: { min: 2048, max: 102_400 }, width: { min: 200, max: 900 }, height: { min: 260, max: 1200 }, aspect: { min: 0.6, max: 0.9 }, backgrounds: [], sameFace: false,
  printArea: { min: 20, max: 90 }, ridges: { min: 60 }, smudge: { max: 25 },
}
const notice: Notice = { ...sampleNotice(), images: { ...sampleNotice().images, thumb: thumbRule } }
const keep = (name: string, content: string | Buffer) => {
  const file = join(folder, name)
  writeFileSync(file, content)
  return file
}
const noticeFile = keep('notice.json', JSON.stringify(notice))

async function lucid(...args: string[]): Promise<{ code: number, stdout: string, stderr: string }> {
  try {
    return { code: 0, ...await promisify(execFile)(resolve(import.meta.dirname, '../../bin/lucid'), ['image', ...args]) }
  } catch (error) {
    const { code, stdout, stderr } = error as { code: number, stdout: string, stderr: string }
    return { code, stdout, stderr }
  }
}
interface Report { findings: (Finding & { words: { title: string } })[], fixed: { findings: Finding[], edits: { kind: string }[] } | null }
const bare = (findings: Finding[]) => findings.map(({ code, about, verdict, value, unit, bound, parameters }) => ({ code, about, verdict, value, unit, bound, parameters }))

describe('lucid image', () => {
  const threads = new PictureThreads(pictureCode, 1)
  afterAll(() => threads.close())

  it('finds what the office finds, in this thread and in its own', async () => {
    const bytes = await drawPortrait(new Random(44), 'sunglasses')
    const { code, stdout } = await lucid(keep('me.jpg', bytes), '--as', 'photo', '--notice', noticeFile, '--json')
    expect(code).toBe(3)
    const report = JSON.parse(stdout) as Report
    const here = await inspectorWith(await openFaceDetector())(bytes, imageSlot('photograph', notice.images.photograph))
    const there = await threads.inspect(bytes, imageSlot('photograph', notice.images.photograph))
    expect(bare(report.findings)).toEqual(bare(here.findings))
    expect(bare(there.findings)).toEqual(bare(here.findings))
    expect(there.marks).toEqual(here.marks)
    expect(report.findings.find(f => f.code === 'photograph.eyesUncovered')?.verdict).toBe('fail')
  })

  it('mends a picture, says how, and ends well when the mended one keeps every rule', async () => {
    const fixed = join(folder, 'mended.jpg')
    const file = keep('down.jpg', await drawPortrait(new Random(45), 'upside down'))
    const { code, stdout } = await lucid(file, '--as', 'photo', '--notice', noticeFile, '--fix', fixed, '--json')
    expect(code).toBe(0)
    const report = JSON.parse(stdout) as Report
    expect(report.findings.find(f => f.code === 'photograph.upright')).toMatchObject({ verdict: 'fail', value: 180 })
    expect(report.fixed?.edits[0]).toEqual({ kind: 'turned', degrees: 180 })
    expect(readFileSync(fixed).length).toBe(report.fixed?.findings.find(f => f.code === 'photograph.bytes')?.value)
    const words = await lucid(file, '--as', 'photo', '--notice', noticeFile, '--fix', fixed)
    expect(words.stdout).toContain('✕ Turned by 180° (0°) – The shoulders should meet the lower edge. Turn the picture.')
    expect(words.stdout).toContain('turned the other way up')
  })

  it.each<[string, () => string[], RegExp]>([
    ['no file', () => ['--as', 'photo', '--notice', noticeFile], /one file, --as and --notice must be given/],
    ['an unknown kind', () => [keep('a.jpg', 'x'), '--as', 'face', '--notice', noticeFile], /--as "face" is not known; there are photo, signature, thumb/],
    ['a file that is not there', () => [join(folder, 'none.jpg'), '--as', 'photo', '--notice', noticeFile], /none\.jpg cannot be read/],
    ['a text', () => [keep('text.jpg', 'hello'), '--as', 'photo', '--notice', noticeFile], /a text, not a picture/],
    ['a notice that asks for no such image', () => [keep('b.jpg', 'x'), '--as', 'thumb', '--notice', keep('plain.json', JSON.stringify(sampleNotice()))], /asks for no thumb; it asks for photograph, signature/],
    ['an output that is no JPEG', () => [keep('c.jpg', 'x'), '--as', 'photo', '--notice', noticeFile, '--fix', 'out.png'], /the name must end in \.jpg/],
    ['an unknown option', () => ['--what'], /Unknown option/],
  ])('refuses %s with what to do', async (_, args, words) => {
    const { code, stderr } = await lucid(...args())
    expect(code).toBe(2)
    expect(stderr).toMatch(words)
  })
})

describe('a thumb impression', () => {
  let failed: (fault: typeof thumbFaults[number], seed: number) => Promise<string[]>
  beforeAll(() => {
    const inspect = inspectorWith()
    failed = async (fault, seed) => (await inspect(await drawThumb(new Random(seed), fault), imageSlot('thumb', thumbRule))).findings.filter(f => f.verdict !== 'pass' && f.code !== 'thumb.bytes').map(f => f.code.split('.')[1] ?? '')
  })
  const wanted: Record<typeof thumbFaults[number], string[]> = { 'none': [], 'blank': ['printArea'], 'smudged': ['smudge'], 'no ridges': ['ridges', 'smudge', 'printArea'], 'corner only': ['printArea'] }

  it.each(thumbFaults)('%s: told in every one of twenty', async (fault) => {
    for (let seed = 1; seed <= 20; seed += 1) {
      const codes = await failed(fault, seed)
      if (fault === 'none') expect([seed, codes]).toEqual([seed, []])
      else expect([seed, codes.some(code => wanted[fault].includes(code))]).toEqual([seed, true])
    }
  })
})
