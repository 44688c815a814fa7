import { execFile } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { promisify } from 'node:util'
import pictureCode from 'virtual:picture-worker'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { image } from '../../cli/image'
import { InputError } from '../../cli/input'
import { imageSlot, slotOf, type Slot } from '../../core/application/slots'
import type { Finding } from '../../core/finding/finding'
import type { Notice } from '../../core/notice/schema'
import { drawCertificate, scanPage } from '../../demo/documents'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { drawThumb, thumbFaults } from '../../demo/thumbs'
import { openFaceDetector } from '../../pictures/faces'
import { inspectorWith } from '../../pictures/inspect'
import { PictureProcesses } from '../../server/workers/picture-processes'
import { oddPdf } from '../support/odd-files'
import { sampleNotice } from '../support/sample'

const folder = mkdtempSync(join(tmpdir(), 'lucid-image-'))
const thumbRule: NonNullable<Notice['images']['thumb']> = {
  title: 'Thumb impression',
  formats: ['jpeg'],
  bytes: { min: 2048, max: 102_400 },
  width: { min: 200, max: 900 },
  height: { min: 260, max: 1200 },
  aspect: { min: 0.6, max: 0.9 },
  backgrounds: [],
  sameFace: false,
  printArea: { min: 20, max: 90 },
  ridges: { min: 60 },
  smudge: { max: 25 },
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
/** Refusals are asked for in this thread: a process for each would cost two seconds. */
async function refused(args: string[], words: RegExp): Promise<void> {
  const error: unknown = await image(args).catch((reason: unknown) => reason)
  expect(error).toBeInstanceOf(InputError)
  expect((error as InputError).message).toMatch(words)
}
interface Report {
  findings: (Finding & { words: { title: string } })[]
  fixed: { findings: Finding[], edits: { kind: string }[] } | null
}
const bare = (findings: Finding[]) =>
  findings.map(({ code, about, verdict, value, unit, bound, parameters }) => ({ code, about, verdict, value, unit, bound, parameters }))

const threads = new PictureProcesses(pictureCode)
afterAll(() => threads.close())

describe('lucid image', () => {
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
    ['an unknown kind', () => [keep('a.jpg', 'x'), '--as', 'face', '--notice', noticeFile],
      /--as "face" is not known; there are photo, signature, thumb/],
    ['a file that is not there', () => [join(folder, 'none.jpg'), '--as', 'photo', '--notice', noticeFile], /none\.jpg cannot be read/],
    ['a text', () => [keep('text.jpg', 'hello'), '--as', 'photo', '--notice', noticeFile], /a text, not a picture/],
    ['a notice that asks for no such image',
      () => [keep('b.jpg', 'x'), '--as', 'thumb', '--notice', keep('plain.json', JSON.stringify(sampleNotice()))],
      /asks for no thumb; it asks for photograph, signature/],
    ['an output that is no JPEG', () => [keep('c.jpg', 'x'), '--as', 'photo', '--notice', noticeFile, '--fix', 'out.png'],
      /the name must end in \.jpg/],
    ['an unknown option', () => ['--what'], /Unknown option/],
  ])('refuses %s with what to do', (_, args, words) => refused(args(), words))

  it('ends with 2 as a command that is refused, and says why', async () => {
    const { code, stderr } = await lucid('--as', 'photo', '--notice', noticeFile)
    expect(code).toBe(2)
    expect(stderr).toMatch(/^lucid: one file, --as and --notice must be given/)
  })
})

describe('a thumb impression', () => {
  let failed: (fault: typeof thumbFaults[number], seed: number) => Promise<string[]>
  beforeAll(() => {
    const inspect = inspectorWith()
    failed = async (fault, seed) =>
      (await inspect(await drawThumb(new Random(seed), fault), imageSlot('thumb', thumbRule))).findings.filter(f =>
        f.verdict !== 'pass' && f.code !== 'thumb.bytes'
      ).map(f => f.code.split('.')[1] ?? '')
  })
  const wanted: Record<typeof thumbFaults[number], string[]> = {
    'none': [],
    'blank': ['printArea'],
    'smudged': ['smudge'],
    'no ridges': ['ridges', 'smudge', 'printArea'],
    'corner only': ['printArea'],
  }

  it.each(thumbFaults)('%s: told in every one of twenty', async (fault) => {
    for (let seed = 1; seed <= 20; seed += 1) {
      const codes = await failed(fault, seed)
      if (fault === 'none') expect([seed, codes]).toEqual([seed, []])
      else expect([seed, codes.some(code => wanted[fault].includes(code))]).toEqual([seed, true])
    }
  })
})

describe('lucid image --as document', () => {
  const holder = { name: 'Tavirel Osk-Anundé', number: 'OI-44719', bornOn: '15 June 2004' }
  let certificate: string
  beforeAll(async () => {
    certificate = keep('certificate.pdf', await drawCertificate(new Random(1), 'Category certificate', holder))
  })
  const asDocument = (...args: string[]) => lucid(...args, '--as', 'document', '--document', 'category-certificate', '--notice', noticeFile)

  it('finds what the office finds', async () => {
    const { code, stdout } = await asDocument(certificate, '--json')
    expect(code).toBe(0)
    const report = JSON.parse(stdout) as { as: string, files: { file: string, findings: Finding[] }[], fixed: null }
    const office = await threads.inspect(readFileSync(certificate), slotOf(notice, 'category-certificate') as Slot)
    expect(report).toMatchObject({ as: 'category-certificate', fixed: null })
    expect(bare(report.files[0]?.findings ?? [])).toEqual(bare(office.findings))
  })

  it('makes one PDF of several files in their order, blank pages left out, and says how', async () => {
    const pdf = readFileSync(certificate)
    const askew = keep('askew.jpg', await scanPage(new Random(2), pdf, 'askew', 120))
    const blank = keep('blank.jpg', await scanPage(new Random(3), pdf, 'blank page', 120))
    const out = join(folder, 'one.pdf')
    const { code, stdout } = await asDocument(askew, blank, certificate, '--fix', out)
    expect(code).toBe(0)
    expect(stdout).toContain('✕ Blank pages – Page 1 is blank.')
    expect(stdout).toContain('2 pages of 2 files put into one PDF')
    expect(stdout).toMatch(/page 1 straightened by \d/)
    expect(stdout).toContain('✓ Made of: 1 page of text, 1 scan')
    expect(readFileSync(out).subarray(0, 5).toString()).toBe('%PDF-')
  })

  it.each<[string, () => string[] | Promise<string[]>, RegExp]>([
    ['no document named where there are several', () => [certificate, '--as', 'document', '--notice', noticeFile],
      /--document must name one of identity-proof, category-certificate/],
    ['a document that nobody asks for', () => [certificate, '--as', 'document', '--document', 'passport', '--notice', noticeFile],
      /"passport" is not asked for by the notice HL27; there are identity-proof/],
    ['an output that is no PDF',
      () => [certificate, '--as', 'document', '--document', 'identity-proof', '--notice', noticeFile, '--fix', 'out.jpg'],
      /the name must end in \.pdf/],
    ['an output that is an input',
      () => [certificate, '--as', 'document', '--document', 'identity-proof', '--notice', noticeFile, '--fix', certificate],
      /names a file that is read: it would be lost/],
    ['nothing but blank pages',
      async () => [keep('empty.jpg', await scanPage(new Random(3), readFileSync(certificate), 'blank page', 100)), '--as', 'document',
        '--document', 'identity-proof', '--notice', noticeFile, '--fix', join(folder, 'x.pdf')], /every page is blank/],
    ['a PDF with a script',
      async () => [keep('script.pdf', await oddPdf('script')), '--as', 'document', '--document', 'identity-proof', '--notice', noticeFile],
      /script\.pdf: The PDF carries a program/],
  ])('refuses %s with what to do', async (_, args, words) => refused(await args(), words))
})
