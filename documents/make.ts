import { measurePage } from '../core/documents/page'
import { cut, turned } from '../core/imaging/cut'
import { withinBytes, type Edit, type Encoded } from '../core/imaging/fit'
import type { RgbPixels } from '../core/imaging/pixels'
import type { Turn } from '../core/imaging/upright'
import type { DocumentRule } from '../core/notice/file-rules'
import { assemble, type Leaf } from './assemble'
import type { PdfReader } from './pdf'

/**
 * One page of a document to be made: a picture, or a page of a PDF, counted from 0, and how it is turned by hand; undefined leaves it to
 * the writing.
 */
export type Draft = { source: Uint8Array, turn?: Turn } & ({ kind: 'picture' } | { kind: 'pdf', page: number })

/** What the making needs from outside: pictures decoded upright to at most a longer side, JPEGs made, PDFs read. */
export interface BindingRoom {
  picture: (bytes: Uint8Array, longSide: number) => Promise<RgbPixels>
  encode: (pixels: RgbPixels, quality: number) => Promise<Uint8Array>
  pdf: () => Promise<PdfReader>
}

export interface MadeDocument {
  bytes: Uint8Array
  edits: Edit[]
}

/** Longest sides of a page that are tried one after another until the file is small enough: A4 at 200, 150 and 110 dots an inch. */
const sides = [2339, 1754, 1286]
/** Lines that lean less are left alone: straightening costs sharpness. */
const leastLean = 0.7
const mostLean = 30
/** Writing gains nothing by more, and a weak line carries it sooner. */
const bestQuality = 82

/**
 * Makes one PDF of pages in their order, within the notice's bytes. Pictures are turned upright where their letters tell which way that is,
 * and straightened; what cannot be told is left to whoever made the picture. Pages of PDFs are taken over as they are; only where the file
 * is too large otherwise they are made pictures.
 *
 * @returns null when even small and strongly compressed pages are too large together.
 */
export async function makeDocument(
  drafts: readonly Draft[],
  rule: Pick<DocumentRule, 'bytes'>,
  room: BindingRoom,
): Promise<MadeDocument | null> {
  for (const redraw of drafts.some(({ kind }) => kind === 'pdf') ? [false, true] : [false]) {
    for (const side of sides) {
      const edits: Edit[] = []
      const pages: (Leaf | RgbPixels)[] = []
      for (const [i, draft] of drafts.entries()) pages.push(await pageOf(draft, i + 1, side, redraw, room, edits))
      const file = await bound(pages, rule, room)
      if (!file) continue
      const redrawn = redraw ? drafts.filter(({ kind }) => kind === 'pdf').length : 0
      const files = new Set(drafts.map(({ source }) => source)).size
      return {
        bytes: file.bytes,
        edits: [{ kind: 'put together', pages: drafts.length, files }, ...edits,
          ...redrawn > 0 ? [{ kind: 'pages redrawn' as const, pages: redrawn }] : []],
      }
    }
  }
  return null
}

async function pageOf(
  draft: Draft,
  page: number,
  side: number,
  redraw: boolean,
  room: BindingRoom,
  edits: Edit[],
): Promise<Leaf | RgbPixels> {
  if (draft.kind === 'pdf') {
    const turn = draft.turn ?? 0
    if (turn !== 0) edits.push({ kind: 'page turned', page, degrees: turn })
    if (!redraw) return { pdf: draft.source, page: draft.page, turn }
    return turned((await room.pdf())(draft.source, pdf => pdf.page(draft.page, ({ draw }) => draw(side))), turn)
  }
  const lying = await room.picture(draft.source, side)
  const { skew, turn: told } = measurePage(Math.max(lying.width, lying.height) > 2000 ? halved(lying) : lying)
  const turn = draft.turn ?? told ?? 0
  if (turn !== 0) edits.push({ kind: 'page turned', page, degrees: turn })
  // Quarter turns leave the leaning as it is.
  const upright = turned(lying, turn)
  if (skew === null || Math.abs(skew) < leastLean || Math.abs(skew) > mostLean) return upright
  edits.push({ kind: 'page straightened', page, degrees: skew })
  return straightened(upright, skew)
}

/** Half as wide and high, each new pixel the mean of four: how lines lie is seen as well, in a quarter of the time. */
function halved({ width, height, data }: RgbPixels): RgbPixels {
  const [w, h] = [Math.max(1, width >> 1), Math.max(1, height >> 1)]
  const made = new Uint8Array(w * h * 3)
  const [right, down] = [width > 1 ? 3 : 0, height > 1 ? width * 3 : 0]
  for (let y = 0, to = 0; y < h; y += 1) {
    for (let x = 0; x < w; x += 1) {
      for (let c = 0, from = (y * 2 * width + x * 2) * 3; c < 3; c += 1, from += 1, to += 1) {
        made[to] = ((data[from] ?? 0) + (data[from + right] ?? 0) + (data[from + down] ?? 0) + (data[from + right + down] ?? 0) + 2) >> 2
      }
    }
  }
  return { width: w, height: h, data: made }
}

/** The picture turned by an angle about its middle; what comes to lie beyond its edges is lost, as a paper's margin. */
function straightened(pixels: RgbPixels, angle: number): RgbPixels {
  const { width, height } = pixels
  return cut(pixels, { turn: 0, centre: { x: width / 2, y: height / 2 }, width, height, angle }, { width, height })
}

async function bound(pages: (Leaf | RgbPixels)[], rule: Pick<DocumentRule, 'bytes'>, room: BindingRoom): Promise<Encoded | null> {
  const drawn = pages.some(page => 'data' in page)
  const whole = async (quality: number) => {
    const leaves: Leaf[] = []
    for (const page of pages) leaves.push('data' in page ? { jpeg: await room.encode(page, quality) } : page)
    return assemble(leaves)
  }
  if (drawn) return withinBytes(whole, rule.bytes, bestQuality)
  const bytes = await whole(100)
  return bytes.length <= (rule.bytes.max ?? Infinity) ? { bytes, quality: 100 } : null
}
