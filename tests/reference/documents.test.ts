import { execFileSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { beforeAll, describe, expect, it, vi } from 'vitest'
import { drawCertificate, drawIdentityPage, scanPage } from '../../demo/documents'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { assemble } from '../../documents/assemble'
import { makeDocument } from '../../documents/make'
import { harmOf } from '../../documents/programs'
import { decodePage, encodeJpeg } from '../../pictures/decode'
import { documentsFrom, openPdfReaderFrom } from '../../pictures/documents'
import { oddPdf } from '../support/odd-files'

// Drawing, reading and putting together pages is real work, and machines are slow at times.
vi.setConfig({ testTimeout: 120_000 })

/** What we read of PDFs, beside what Poppler reads of the same files: another reader, by other people. */
const folder = mkdtempSync(join(tmpdir(), 'lucid-papers-'))
let serial = 0
function kept(bytes: Uint8Array): string {
  const file = join(folder, `${serial += 1}.pdf`)
  writeFileSync(file, bytes)
  return file
}
const info = (file: string) =>
  Object
    .fromEntries(execFileSync('pdfinfo', [file], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] }).split('\n').map(
      line => [line.split(':')[0] ?? '', line.slice(line.indexOf(':') + 1).trim()]
    ))
/** Of each picture in a file: its page, its pixels across and down, and its pixels an inch as it is placed. */
const pictures = (file: string) =>
  execFileSync('pdfimages', ['-list', file], { encoding: 'utf8' }).split('\n').slice(2).filter(Boolean).map((line) => {
    const cells = line.trim().split(/\s+/)
    return { page: Number(cells[0]), width: Number(cells[3]), dpi: Number(cells[12]) }
  })
const read = documentsFrom()
const holder = { name: 'Tavirel Osk-Anundé', number: 'OI-44719', bornOn: '15 June 2004' }
let certificate: Buffer
let identity: Buffer
beforeAll(async () => {
  certificate = await drawCertificate(new Random(1), 'Certificate of residence', holder)
  identity = await drawIdentityPage(await drawPortrait(new Random(1), 'none'), 'Passport', holder)
})

describe('a PDF, read here and by Poppler', () => {
  it.each<[string, () => Promise<Uint8Array>]>([
    ['of text', async () => certificate],
    ['of another size, with a picture on it', async () => identity],
    ['of scans of several sizes', async () =>
      assemble([{ jpeg: await scanPage(new Random(2), certificate, 'none', 110) }, {
        jpeg: await scanPage(new Random(3), certificate, 'sideways', 150),
      }, { pdf: identity, page: 0, turn: 90 }])],
    ['locked against changes', () => oddPdf('locked')],
  ])('%s: the same pages, sizes, lock and fineness', async (_, make) => {
    const bytes = await make()
    const file = kept(bytes)
    const { facts } = await read(bytes)
    const theirs = info(file)
    expect(facts.pages.length).toBe(Number(theirs.Pages))
    expect(facts.locked).toBe(theirs.Encrypted?.startsWith('yes'))
    const first = facts.pages[0]?.paper
    const [width, height] = (/^([\d.]+) x ([\d.]+)/.exec(theirs['Page size'] ?? '') ?? []).slice(1).map(points =>
      Number(points) * 25.4 / 72
    )
    expect(first?.width).toBeCloseTo(width ?? NaN, 1)
    expect(first?.height).toBeCloseTo(height ?? NaN, 1)
    for (const [i, { scan }] of facts.pages.entries()) {
      const largest = pictures(file).filter(one => one.page === i + 1).sort((a, b) => b.width - a.width)[0]
      expect(scan === null).toBe(largest === undefined)
      if (scan && largest) expect(Math.abs(scan.dpi - largest.dpi)).toBeLessThanOrEqual(1.5)
    }
  })

  it.each(['plain', 'script', 'script of a page', 'script in a packed object', 'script under an escaped name'] as const)(
    '%s: both find a script, or both none',
    async (kind) => {
      const bytes = await oddPdf(kind)
      expect(await harmOf(bytes)).toBe(kind === 'plain' ? null : 'program')
      expect(info(kept(bytes)).JavaScript).toBe(kind === 'plain' ? 'no' : 'yes')
    },
  )

  it('that was put together here opens there, its pages in order', async () => {
    const made = await makeDocument(
      [
        { kind: 'pdf', source: certificate, page: 0 },
        { kind: 'picture', source: await scanPage(new Random(5), certificate, 'askew', 150) },
        { kind: 'pdf', source: identity, page: 0, turn: 90 },
      ],
      { bytes: { max: 1024 * 1024 } },
      { picture: async (bytes, side) => (await decodePage(bytes, side)).pixels, encode: encodeJpeg, pdf: () => openPdfReaderFrom() },
    )
    const file = kept(made?.bytes ?? new Uint8Array())
    expect(info(file).Pages).toBe('3')
    const text = (page: number) => execFileSync('pdftotext', ['-f', String(page), '-l', String(page), file, '-'], { encoding: 'utf8' })
    expect([text(1).includes('Certificate of residence'), text(2).trim(), text(3).includes('Federation of Ilmara')]).toEqual([true, '',
      true])
  })
})
