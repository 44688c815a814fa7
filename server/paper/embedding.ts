import { deflateSync } from 'node:zlib'
import type { Font, Subset } from 'fontkit'

/** What of pdfkit's embedded font is used here; its types do not name it. */
interface Embedded {
  layout: (text: string) => LaidOut
  encode: (text: string) => [codes: string[], positions: LaidOut['positions']]
  embed: () => void
  /** Writes which letters the glyphs stand for. */
  toUnicodeCmap: () => PDFKit.PDFKitReference
  document: PDFKit.PDFDocument
  subset: GlyphSet
  /** By the glyph's number in the paper: the letters it stands for, and its width in thousandths of the size. */
  unicode: number[][]
  widths: number[]
}
/** fontkit's own, as far as it is not private: the shapes in the order of their numbers. */
interface GlyphSet {
  glyphs: number[]
  mapping: Record<number, number>
  includeGlyph: (id: number) => number
  encode: () => Uint8Array
}
interface Glyph {
  id: number
  codePoints: number[]
  advanceWidth: number
}
/** A text as glyphs with their places, in thousandths of the size. Not to be written to. */
export interface LaidOut {
  glyphs: readonly Glyph[]
  positions: { xAdvance: number, yAdvance: number, xOffset: number, yOffset: number, advanceWidth: number }[]
  advanceWidth: number
}

/** A face as papers embed it: how it lays out a text, and the glyphs that every paper carries of it. */
export interface EmbeddedFace {
  font: Font
  laidOut: (text: string) => LaidOut
  base: Base | null
}
interface Base {
  glyphs: number[]
  numbers: Map<string, number>
  unicode: number[][]
  widths: number[]
  /** Of the face with these glyphs alone: compressed, and how long it is otherwise. */
  file: Uint8Array
  bytes: number
  /** Which letters they stand for, compressed; once a paper asked for it. */
  letters?: Uint8Array
}

const keyOf = ({ id, codePoints }: Glyph) => `${id}:${codePoints.join()}`

/** What gives glyphs their numbers: the shapes in order, and of each number its letters and its width. */
interface Numbering {
  subset: GlyphSet
  numbers: Map<string, number>
  unicode: number[][]
  widths: number[]
}

/** The next number, for a glyph that has none yet. */
function numberFor(glyph: Glyph, { subset, numbers, unicode, widths }: Numbering, scale: number): number {
  const number = subset.glyphs.push(glyph.id) - 1
  subset.mapping[glyph.id] ??= number
  numbers.set(keyOf(glyph), number)
  unicode[number] = glyph.codePoints
  widths[number] = glyph.advanceWidth * scale
  return number
}

/**
 * The glyphs of some texts, made ready once. Making a paper's own choice of a face anew costs more than all else that is drawn on a card.
 */
export function baseOf({ font, laidOut }: Omit<EmbeddedFace, 'base'>, texts: readonly string[]): Base {
  const subset = createSet(font)
  const scale = 1000 / font.unitsPerEm
  const [numbers, unicode, widths] = [new Map<string, number>(), [[0]], [font.getGlyph(0).advanceWidth * scale]]
  for (const glyph of texts.flatMap(text => [...laidOut(text).glyphs])) {
    if (!numbers.has(keyOf(glyph))) numberFor(glyph, { subset, numbers, unicode, widths }, scale)
  }
  // Making the file adds what composed shapes are made of: no paper's own glyph has those numbers.
  const glyphs = [...subset.glyphs]
  const file = subset.encode()
  return { glyphs, numbers, unicode, widths, file: deflateSync(file, { level: 9 }), bytes: file.length }
}

const createSet = (font: Font) => font.createSubset() as unknown as GlyphSet & Subset
const prepared = new WeakSet<Embedded>()

/** Embeds what was made ready, compressed as it is, where a paper has no other glyphs. */
function withFile(own: Embedded, base: Base): void {
  const { document, subset } = own
  const [embedOwn, lettersOwn] = [own.embed.bind(own), own.toUnicodeCmap.bind(own)]
  const isBase = () => subset.glyphs.length === base.glyphs.length
  const compressed = (bytes: Uint8Array, also: object = {}) => {
    const reference = document.ref({ Filter: 'FlateDecode', ...also })
    reference.end(Buffer.from(bytes))
    return reference
  }
  own.embed = () => {
    if (isBase()) {
      // The first thing that pdfkit makes of a font is its file, and what it would put there is left out.
      subset.encode = () => new Uint8Array()
      own.document = standingIn(document, () => {
        own.document = document
        return Object.assign(compressed(base.file, { Length1: base.bytes }), { end: () => undefined })
      })
    }
    embedOwn()
  }
  own.toUnicodeCmap = () => {
    if (!isBase()) return lettersOwn()
    if (!base.letters) {
      let written = ''
      own.document = standingIn(document, () => ({
        end: (text: string) => {
          written = text
        },
      }))
      lettersOwn()
      own.document = document
      base.letters = deflateSync(written, { level: 9 })
    }
    return compressed(base.letters)
  }
}

const standingIn = (document: PDFKit.PDFDocument, ref: () => object) =>
  Object.create(document, { ref: { value: ref } }) as PDFKit.PDFDocument

/**
 * Lets each glyph of a paper stand for its own letters. pdfkit keeps one text for each drawn shape; but shapes are shared: the body of an
 * Arabic zain is that of a ra, with a dot of its own, so that whoever copied a name got one letter for another. A shape that stands for
 * something else goes into the paper once more, under a number of its own. Texts are laid out once for all papers, not by pdfkit for each.
 */
export function embed(doc: PDFKit.PDFDocument, { font, laidOut, base }: EmbeddedFace): void {
  const own = (doc as unknown as { _font: Embedded })._font
  if (prepared.has(own)) return
  prepared.add(own)
  const [numbers, { subset }, scale] = [new Map<string, number>(), own, 1000 / font.unitsPerEm]
  if (base) {
    subset.glyphs = [...base.glyphs]
    base.glyphs.forEach((id, number) => {
      subset.mapping[id] ??= number
    })
    ;[own.unicode, own.widths] = [[...base.unicode], [...base.widths]]
    withFile(own, base)
  }
  const numberOf = (glyph: Glyph) => {
    const key = keyOf(glyph)
    return base?.numbers.get(key) ?? numbers.get(key)
      ?? numberFor(glyph, { subset, numbers, unicode: own.unicode, widths: own.widths }, scale)
  }
  own.layout = laidOut
  own.encode = (text) => {
    const { glyphs, positions } = laidOut(text)
    return [glyphs.map(glyph => numberOf(glyph).toString(16).padStart(4, '0')), positions]
  }
}
