import sharp from 'sharp'
import { beforeAll, describe, expect, it, vi } from 'vitest'
import { measureDocument } from '../core/documents/measure'
import type { DocumentRule } from '../core/notice/file-rules'
import { drawCertificate, scanPage, type ScanFault } from '../demo/documents'
import { Random } from '../demo/random'
import { decodePage, encodeJpeg } from '../pictures/decode'
import { documentsFrom, openPdfReaderFrom } from '../pictures/documents'
import { sampleNotice } from '../tests/support/sample'
import { makeDocument, type BindingRoom, type Draft } from './make'

// Drawing, reading and putting together pages is real work, and machines are slow at times.
vi.setConfig({ testTimeout: 120_000 })

const rule = sampleNotice().documents.find(({ id }) => id === 'category-certificate') as DocumentRule
const room: BindingRoom = {
  picture: async (bytes, side) => (await decodePage(bytes, side)).pixels,
  encode: encodeJpeg,
  pdf: () => openPdfReaderFrom(),
}
const read = documentsFrom()
const holder = { name: 'Tavirel Osk-Anundé', number: 'OI-44719', bornOn: '15 June 2004' }
let certificate: Buffer
beforeAll(async () => {
  certificate = await drawCertificate(new Random(1), 'Certificate of residence', holder)
})
const picture = async (fault: ScanFault, seed: number): Promise<Draft> => ({
  kind: 'picture',
  source: await scanPage(new Random(seed), certificate, fault, 170),
})

async function made(drafts: Draft[], bytes = rule.bytes) {
  const document = await makeDocument(drafts, { bytes }, room)
  if (!document) throw new Error('nothing was made')
  const { facts, pages } = await read(document.bytes)
  return {
    ...document,
    facts,
    pages,
    failed: measureDocument(facts, { ...rule, bytes }).filter(f => f.verdict === 'fail').map(f => f.code),
  }
}

describe('a document put together', () => {
  it('of pictures and a PDF keeps their order and every rule', async () => {
    const { facts, edits, failed, bytes } = await made([await picture('sideways', 1), { kind: 'pdf', source: certificate, page: 0 },
      await picture('askew', 2)])
    expect(failed).toEqual([])
    expect(facts.pages.map(({ characters, scan }) => [characters > 500, (scan?.share ?? 0) > 50])).toEqual([[false, true], [true, false], [
      false,
      true,
    ]])
    expect(edits[0]).toEqual({ kind: 'put together', pages: 3, files: 3 })
    expect(edits.map(edit => 'page' in edit ? `${edit.kind} ${edit.page}` : edit.kind))
      .toEqual(expect.arrayContaining(['page turned 1', 'page straightened 3']))
    expect(bytes.length).toBeLessThanOrEqual(rule.bytes.max ?? 0)
  })

  it('turns a page the right way up, however it lies', async () => {
    for (const turn of [90, 180, 270] as const) {
      const { facts, edits } = await made([{
        kind: 'picture',
        source: await sharp(await scanPage(new Random(7), certificate, 'none', 170)).rotate(turn).jpeg().toBuffer(),
      }])
      expect(edits).toContainEqual({ kind: 'page turned', page: 1, degrees: 360 - turn })
      expect(facts.pages[0]?.measures.turn).toBe(0)
    }
  })

  it('turns what is turned by hand by that and nothing else', async () => {
    const draft = await picture('none', 3)
    const { edits, facts } = await made([{ ...draft, turn: 90 }])
    expect(edits).toContainEqual({ kind: 'page turned', page: 1, degrees: 90 })
    expect(facts.pages[0]?.measures.sideways).toBe(true)
    expect(facts.pages[0]?.paper?.width).toBeGreaterThan(facts.pages[0]?.paper?.height ?? 0)
  })

  it('gets into a small size by coarser pages, and says that PDF pages became pictures only when they had to', async () => {
    const heavy = (await made([await picture('none', 4), await picture('none', 5)])).bytes
    const small = await made([{ kind: 'pdf', source: heavy, page: 0 }, { kind: 'pdf', source: heavy, page: 1 }], { max: 160 * 1024 })
    expect(small.bytes.length).toBeLessThanOrEqual(160 * 1024)
    expect(small.edits).toContainEqual({ kind: 'pages redrawn', pages: 2 })
    const roomy = await made([{ kind: 'pdf', source: heavy, page: 0 }])
    expect(roomy.edits).toEqual([{ kind: 'put together', pages: 1, files: 1 }])
  })

  it('is nothing where even the coarsest pages are too large', async () => {
    expect(await makeDocument([await picture('none', 6)], { bytes: { max: 4096 } }, room)).toBeNull()
  })
})
