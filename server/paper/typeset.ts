import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import bidiFactory from 'bidi-js'
import * as fontkit from 'fontkit'
import { refusal } from '../../shared/problem'

/**
 * Type for printed papers: several faces, one for each script, parsed once. pdfkit draws a run in one face and from
 * left to right; so lines are cut into runs of one direction and one face, in the order in which they are seen.
 */
const faces = {
  sans: 'source-sans-3/400Regular/SourceSans3_400Regular.ttf',
  strong: 'source-sans-3/600SemiBold/SourceSans3_600SemiBold.ttf',
  serif: 'source-serif-4/600SemiBold/SourceSerif4_600SemiBold.ttf',
  devanagari: 'noto-sans-devanagari/500Medium/NotoSansDevanagari_500Medium.ttf',
  arabic: 'noto-naskh-arabic/500Medium/NotoNaskhArabic_500Medium.ttf',
} as const
export type Face = keyof typeof faces
const fallbacks: Face[] = ['devanagari', 'arabic']

const parsed = new Map<Face, fontkit.Font>()
function font(face: Face): fontkit.Font {
  const known = parsed.get(face)
  if (known) return known
  const made = fontkit.create(readFileSync(resolve(process.cwd(), 'node_modules/@expo-google-fonts', faces[face])))
  if (!('layout' in made)) throw refusal('print.face', { face })
  rememberLayouts(made)
  parsed.set(face, made)
  return made
}

/** Lines that a font keeps as laid out, oldest out: those printed on every paper, and one paper's own while it is being drawn. */
const linesKept = 1000

/**
 * Lets a font lay out a line once. pdfkit asks for it again for its width, for drawing and for moving on, and papers of one kind
 * carry the same labels. It then scales the positions it was given, so each asker gets copies.
 */
function rememberLayouts(made: fontkit.Font): void {
  const fresh = made.layout.bind(made)
  const kept = new Map<string, fontkit.GlyphRun>()
  made.layout = (text, wanted, ...rest) => {
    const key = JSON.stringify([text, wanted, rest])
    const run = kept.get(key) ?? fresh(text, wanted, ...rest)
    kept.set(key, run)
    for (const oldest of kept.keys()) {
      if (kept.size <= linesKept) break
      kept.delete(oldest)
    }
    const copy: fontkit.GlyphRun = Object.create(run)
    copy.positions = run.positions.map(position => ({ ...position }))
    return copy
  }
}

// Without ligatures and with whole-run layout: pdfkit lays out word by word otherwise, which puts Arabic words in the wrong order.
const features: PDFKit.Mixins.OpenTypeFeatures[] = ['kern', 'mark', 'mkmk', 'ccmp', 'liga']

const bidi = bidiFactory()
interface Run { text: string, face: Face, rightToLeft: boolean }

/** Cuts one line into runs in visual order. A letter that no face has fails: a card must not lose a letter of a name. */
export function visualRuns(text: string, face: Face): Run[] {
  const { levels } = bidi.getEmbeddingLevels(text)
  const runs: Run[] = []
  let at = 0
  for (const letter of text) {
    const rightToLeft = ((levels[at] ?? 0) & 1) === 1
    at += letter.length
    const last = runs.at(-1)
    const chosen = faceFor(letter, last?.face ?? face, face)
    if (last && last.face === chosen && last.rightToLeft === rightToLeft) last.text += letter
    else runs.push({ text: letter, face: chosen, rightToLeft })
  }
  return reorder(runs, (levels[0] ?? 0) % 2 === 1)
}

function faceFor(letter: string, current: Face, wanted: Face): Face {
  const code = letter.codePointAt(0) ?? 32
  const has = (face: Face) => font(face).hasGlyphForCodePoint(code)
  // Blanks and marks between words stay with the run they stand in.
  if (/[\s\p{P}\p{M}]/u.test(letter) && has(current)) return current
  const found = [wanted, ...fallbacks].find(has)
  if (!found) throw refusal('print.letter', { letter, code: `U+${code.toString(16).toUpperCase()}` })
  return found
}

function reorder(runs: Run[], baseRightToLeft: boolean): Run[] {
  if (baseRightToLeft) runs = [...runs].reverse()
  // Neighbouring runs against the base direction are seen in reverse order among themselves.
  const result: Run[] = []
  for (let i = 0; i < runs.length;) {
    let j = i
    while (j < runs.length && runs[j]?.rightToLeft !== baseRightToLeft) j += 1
    if (j > i) result.push(...runs.slice(i, j).reverse())
    const next = runs[j]
    if (next) result.push(next)
    i = j + 1
  }
  return result
}

export interface TextStyle { face: Face, size: number, colour?: string }

/** Width of one line in points. */
export function lineWidth(doc: PDFKit.PDFDocument, text: string, style: TextStyle): number {
  return visualRuns(text, style.face).reduce((sum, run) => sum + useFace(doc, run.face, style.size).widthOfString(run.text, { features }), 0)
}

/** Draws one line with its top left corner at x, y, smaller when it would be wider than `maxWidth`. */
export function drawLine(doc: PDFKit.PDFDocument, text: string, x: number, y: number, style: TextStyle, maxWidth = Infinity): void {
  const width = lineWidth(doc, text, style)
  const size = width > maxWidth ? style.size * maxWidth / width : style.size
  let at = x
  for (const run of visualRuns(text, style.face)) {
    useFace(doc, run.face, size).fillColor(style.colour ?? '#1d2a33')
    const ascender = font(run.face).ascent / font(run.face).unitsPerEm * size
    const base = font(style.face).ascent / font(style.face).unitsPerEm * size
    doc.text(run.text, at, y + base - ascender, { lineBreak: false, features })
    at += doc.widthOfString(run.text, { features })
  }
}

/** Text broken into lines of at most `width`; a word that is longer stands alone. */
export function linesOf(doc: PDFKit.PDFDocument, text: string, width: number, style: TextStyle): string[] {
  const lines: string[] = []
  let line = ''
  for (const word of text.split(/\s+/u)) {
    const longer = line ? `${line} ${word}` : word
    if (line && lineWidth(doc, longer, style) > width) {
      lines.push(line)
      line = word
    } else line = longer
  }
  return [...lines, line]
}

/** Draws text broken into lines of at most `width`; gives the y below the last line. */
export function drawParagraph(doc: PDFKit.PDFDocument, text: string, x: number, y: number, width: number, style: TextStyle, leading = 1.3): number {
  let at = y
  for (const line of linesOf(doc, text, width, style)) {
    drawLine(doc, line, x, at, style, width)
    at += style.size * leading
  }
  return at
}

function useFace(doc: PDFKit.PDFDocument, face: Face, size: number): PDFKit.PDFDocument {
  // pdfkit takes a parsed font although its types do not say so: parsing again for each card costs most of its time.
  doc.registerFont(face, font(face) as unknown as Buffer)
  return doc.font(face).fontSize(size)
}
