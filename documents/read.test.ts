import { beforeAll, describe, expect, it, vi } from 'vitest'
import { drawCertificate, drawScan, scanPage } from '../demo/documents'
import { Random } from '../demo/random'
import { documentsFrom } from '../pictures/documents'
import { costlyPdf, filledForm, hugePng, oddPdf } from '../tests/support/odd-files'
import { assemble } from './assemble'

// Drawing, reading and putting together pages is real work, and machines are slow at times.
vi.setConfig({ testTimeout: 120_000 })

const holder = { name: 'Tavirel Osk-Anundé', number: 'OI-44719', bornOn: '15 June 2004' }
const read = documentsFrom()
let certificate: Buffer
beforeAll(async () => {
  certificate = await drawCertificate(new Random(1), 'Certificate of residence', holder)
})

describe('reading a document', () => {
  it.each<[string, () => Promise<Buffer> | Buffer, string]>([
    ['an empty file', () => Buffer.alloc(0), '0 bytes'],
    ['a text named .pdf', () => Buffer.from('hello, I am a document'), 'a text, not a picture'],
    ['a PDF that needs a password', () => oddPdf('secret'), 'opens only with a password'],
    ['a PDF with a script', () => oddPdf('script'), 'carries a program'],
    ['a script that a page starts', () => oddPdf('script of a page'), 'carries a program'],
    ['a script that opening starts', () => oddPdf('script on opening'), 'carries a program'],
    ['a script packed away in a stream of objects', () => oddPdf('script in a packed object'), 'carries a program'],
    ['a script whose name is written in escapes', () => oddPdf('script under an escaped name'), 'carries a program'],
    ['an order to start a program', () => oddPdf('launch'), 'carries a program'],
    ['a PDF without pages', () => oddPdf('no pages'), 'no pages'],
    ['what only begins like a PDF', () => oddPdf('not a PDF inside'), 'cannot be read'],
    ['a PDF cut in half', () => certificate.subarray(0, certificate.length / 2), 'breaks off before its end'],
    ['a PDF that lacks its end', () => certificate.subarray(0, -12), 'breaks off before its end'],
    ['25 pages', () => assemble(Array.from({ length: 25 }, () => ({ pdf: certificate, page: 0, turn: 0 as const }))).then(Buffer.from),
      'has 25 pages; at most 24'],
    ['60 MB', () => Buffer.concat([Buffer.from('%PDF-1.7'), Buffer.alloc(60 * 1024 * 1024), Buffer.from('%%EOF')]), 'at most 20 MB'],
    ['a picture of 900 million pixels', () => hugePng(30_000), 'at most 40 million'],
  ])('refuses %s in its own words', async (_, bytes, words) => {
    await expect(read(await bytes())).rejects.toThrow(words)
  })

  it.each<[Parameters<typeof costlyPdf>[0], string]>([
    ['a page that draws itself', 'without end'],
    ['forms in a ring', 'without end'],
    ['glyphs that draw their font', 'without end'],
    ['forms that call ten others each', 'too long to draw'],
    ['three million curves', 'too long to draw'],
    ['a picture of four thousand million points', 'too long to draw'],
    ['content that unpacks to 80 MB', 'too long to draw'],
    ['sends a form', 'carries a program'],
    ['opens another file', 'carries a program'],
  ])('refuses %s before it is drawn', async (kind, words) => {
    await expect(read(await costlyPdf(kind))).rejects.toThrow(words)
  })

  it('takes a PDF that is locked against changes, and says so', async () => {
    const { facts } = await read(await oddPdf('locked'))
    expect(facts).toMatchObject({ format: 'pdf', locked: true, attachments: 0 })
    expect(facts.pages).toHaveLength(1)
    expect(facts.pages[0]?.characters).toBeGreaterThan(500)
  })

  it.each([0, 90, 180, 270] as const)('takes a page of text at its word which way it runs, turned by %i degrees', async (turn) => {
    const { facts } = await read(Buffer.from(await assemble([{ pdf: certificate, page: 0, turn }])))
    expect(facts.pages[0]?.measures).toMatchObject({ sideways: turn % 180 === 90, turn: (360 - turn) % 360 })
  })

  it('goes on after a file it could not read', async () => {
    await expect(read(await oddPdf('not a PDF inside'))).rejects.toThrow()
    expect((await read(certificate)).facts.pages).toHaveLength(1)
  })

  it('sees what was filled into a form', async () => {
    const ink = async (filled: string) => (await read(await filledForm(filled))).facts.pages[0]?.measures.inkShare ?? 0
    expect(await ink('Tavirel Osk-Anundé')).toBeGreaterThan(await ink('') + 0.3)
  })

  it('counts files inside the file', async () => {
    expect((await read(await oddPdf('attachment'))).facts.attachments).toBe(1)
  })

  it('gives a copy of each page, none longer than what a screen needs', async () => {
    const two = await assemble([{ pdf: certificate, page: 0, turn: 0 }, { jpeg: await scanPage(new Random(2), certificate, 'none', 100) }])
    const { facts, pages } = await read(Buffer.from(two))
    expect(facts.pages.map(page => Math.round(page.paper?.width ?? 0))).toEqual([210, 210])
    expect(pages.map(({ width, height, jpeg }) => [Math.max(width, height) <= 1400, jpeg[0]])).toEqual([[true, 0xff], [true, 0xff]])
  })

  it('knows a scan by its picture, and how fine it is', async () => {
    const { facts: { pages: [page] } } = await read(await drawScan(new Random(3), certificate, 'none'))
    expect(page?.scan?.share).toBeGreaterThan(95)
    expect(page?.scan?.dpi).toBeGreaterThan(195)
    expect(page?.scan?.dpi).toBeLessThan(207)
    expect(page?.characters).toBe(0)
  })
})
