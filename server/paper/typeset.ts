import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import bidiFactory from 'bidi-js'
import * as fontkit from 'fontkit'
import { refusal } from '../../shared/refusal'
import { baseOf, embed, type EmbeddedFace, type LaidOut } from './embedding'
import { shaperOf } from './shaping'

/** Where a face of the Noto family lies. */
function noto(script: string): string {
  return `noto-sans-${script.toLowerCase()}/500Medium/NotoSans${script}_500Medium.ttf`
}

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
  hebrew: noto('Hebrew'),
  bengali: noto('Bengali'),
  tamil: noto('Tamil'),
  gujarati: noto('Gujarati'),
  gurmukhi: noto('Gurmukhi'),
  telugu: noto('Telugu'),
  kannada: noto('Kannada'),
  malayalam: noto('Malayalam'),
  sinhala: noto('Sinhala'),
  oriya: noto('Oriya'),
  thai: noto('Thai'),
  armenian: noto('Armenian'),
  georgian: noto('Georgian'),
  ethiopic: noto('Ethiopic'),
  khmer: noto('Khmer'),
  lao: noto('Lao'),
  myanmar: noto('Myanmar'),
  tibetan: 'noto-serif-tibetan/500Medium/NotoSerifTibetan_500Medium.ttf',
  han: noto('SC'),
} as const
export type Face = keyof typeof faces
/** Faces of scripts that ours lack, each read when a letter first asks for it. */
const fallbacks = (Object.keys(faces) as Face[]).filter(face => !['sans', 'strong', 'serif'].includes(face))

/** A face as it is read: its glyphs for the file of a paper, and how it lays out a text. */
interface Parsed {
  font: fontkit.Font
  shaper: (text: string) => LaidOut
}
const parsed = new Map<Face, Parsed>()
function parse(face: Face): Parsed {
  const known = parsed.get(face)
  if (known) return known
  const bytes = readFileSync(resolve(process.cwd(), 'node_modules/@expo-google-fonts', faces[face]))
  const font = fontkit.create(bytes)
  if (!('layout' in font)) throw refusal('print.face', { face })
  const made = { font, shaper: shaperOf(bytes, font) }
  parsed.set(face, made)
  return made
}
const font = (face: Face) => parse(face).font

/** Results of a text that are kept, oldest out: those of what is printed on every paper, and one paper's own while it is being drawn. */
const textsKept = 1000

/**
 * Remembers what was worked out for a text: papers of one kind carry the same labels, and each text is asked for several times while it is
 * drawn.
 */
function remembering<T>(work: (...asked: [text: string, ...rest: (string | number)[]]) => T): typeof work {
  const kept = new Map<string, T>()
  return (...asked) => {
    const key = asked.join('\u0000')
    const known = kept.get(key)
    if (known !== undefined) return known
    const made = work(...asked)
    kept.set(key, made)
    for (const oldest of kept.keys()) {
      if (kept.size <= textsKept) break
      kept.delete(oldest)
    }
    return made
  }
}

/** A text laid out in one face, lengths in thousandths of the size. */
const laidOut = remembering((text, face): LaidOut => parse(face as Face).shaper(text))

const bidi = bidiFactory()
interface Run {
  text: string
  face: Face
  rightToLeft: boolean
}

/** Letters that papers have in common, one by one, and those that are drawn as one shape. */
const common = [
  ...' !"#$%&\'()*+,-./0123456789:;<=>?@ABCDEFGHIJKLMNOPQRSTUVWXYZ[]_abcdefghijklmnopqrstuvwxyzÀÁÂÃÄÅÆÇÈÉÊËÌÍÎÏÐÑÒÓÔÕÖØÙÚÛÜÝÞßàáâãäåæçèéêëìíîïðñòóôõöøùúûüýþÿĄąĆćČčĐđĘęĞğİıŁłŃńŐőŒœŘřŚśŞşŠšŰűŹźŻżŽž–—‘’“”…',
  'ff',
  'fi',
  'fl',
  'ffi',
  'ffl',
  'fj',
  'ft',
  'tt',
]

const embeddedFaces = new Map<Face, EmbeddedFace>()
function embedded(face: Face): EmbeddedFace {
  const known = embeddedFaces.get(face)
  if (known) return known
  const bare = { font: font(face), laidOut: (text: string) => laidOut(text, face) }
  const made = { ...bare, base: fallbacks.includes(face) ? null : baseOf(bare, common) }
  embeddedFaces.set(face, made)
  return made
}

/** Cuts one line into runs in visual order. A letter that no face has fails: a card must not lose a letter of a name. */
export const visualRuns: (text: string, face: Face) => readonly Run[] = remembering((text, face) => cutIntoRuns(text, face as Face))

function cutIntoRuns(text: string, face: Face): Run[] {
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
  // Joiners have no shape of their own: what they join is drawn in one face. Blanks and marks between words stay with the run they stand
  // in.
  if (/\p{Cf}/u.test(letter)) return current
  if (/[\s\p{P}\p{M}]/u.test(letter) && has(current)) return current
  const found = [wanted, ...fallbacks].find(has)
  if (!found) throw refusal('print.letter', { letter, code: codeOf(letter) })
  return found
}

const codeOf = (letter: string) => `U+${(letter.codePointAt(0) ?? 0).toString(16).toUpperCase().padStart(4, '0')}`

/** Letters of texts that no face has, each once, as `ᚠ (U+16A0)`: what would stop a paper is told before it is printed. */
export function lettersWithoutFace(texts: readonly string[]): string[] {
  const letters = new Set(texts.join('').replaceAll(/[\s\p{Cf}]/gu, ''))
  return [...letters].filter(letter =>
    !(['sans', ...fallbacks] as const).some(face => font(face).hasGlyphForCodePoint(letter.codePointAt(0) ?? 0))
  ).map(letter => `${letter} (${codeOf(letter)})`)
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

export interface TextStyle {
  face: Face
  size: number
  colour?: string
}

/** Width of one line in points. */
export function lineWidth(text: string, style: TextStyle): number {
  return visualRuns(text, style.face).reduce((sum, run) => sum + laidOut(run.text, run.face).advanceWidth * style.size / 1000, 0)
}

/**
 * Draws one line with its top left corner at x, y, smaller when it would be wider than `maxWidth`; a blank at its end counts for nothing.
 */
export function drawLine(doc: PDFKit.PDFDocument, text: string, x: number, y: number, style: TextStyle, maxWidth = Infinity): void {
  const width = lineWidth(text.trimEnd(), style)
  const size = width > maxWidth ? style.size * maxWidth / width : style.size
  let at = x
  const runs = visualRuns(text, style.face)
  const asOne = isReordered(runs) && !runs.some(run => run.rightToLeft)
  if (asOne) doc.markContent('Span', { actual: text })
  for (const run of runs) {
    useFace(doc, run.face, size).fillColor(style.colour ?? '#1d2a33')
    const ascender = font(run.face).ascent / font(run.face).unitsPerEm * size
    const base = font(style.face).ascent / font(style.face).unitsPerEm * size
    doc.text(run.text, at, y + base - ascender, { lineBreak: false })
    at += laidOut(run.text, run.face).advanceWidth * size / 1000
  }
  if (asOne) doc.endMarkedContent()
}

/**
 * Whether the glyphs of a line stand in another order than its letters, as the vowels of Devanagari and its kin do, or stand above one
 * another, as in Tibetan. Then the letters go along (ActualText, ISO 32000-1, section 14.9.4) for whoever copies it or has it read aloud.
 * Elsewhere each glyph says its own letters, and readers know better where each stands; what runs from right to left they turn round
 * themselves.
 */
const isReordered = (runs: readonly Run[]) => runs.some(run => reordered.has(run.face))
const reordered: ReadonlySet<Face> = new Set(['devanagari', 'bengali', 'tamil', 'gujarati', 'gurmukhi', 'telugu', 'kannada', 'malayalam',
  'sinhala', 'oriya', 'khmer', 'tibetan', 'myanmar', 'thai', 'lao'])

/** Text broken into lines of at most `width`; a word that is longer stands alone. */
export const linesOf = (text: string, width: number, { face, size }: TextStyle): readonly string[] => brokenInto(text, face, size, width)

const brokenInto = remembering((text, face, size, width): readonly string[] => {
  const style = { face: face as Face, size: Number(size) }
  const words = text.split(/\s+/u)
  const whole = words.join(' ')
  if (lineWidth(whole, style) <= Number(width)) return [whole]
  const lines: string[] = []
  let line = ''
  for (const word of words) {
    const longer = line ? `${line} ${word}` : word
    if (line && lineWidth(longer, style) > Number(width)) {
      lines.push(line)
      line = word
    } else line = longer
  }
  return [...lines, line]
})

/** Draws text broken into lines of at most `width`; gives the y below the last line. */
export function drawParagraph(
  doc: PDFKit.PDFDocument,
  text: string,
  x: number,
  y: number,
  width: number,
  style: TextStyle,
  leading = 1.3,
): number {
  let at = y
  const lines = linesOf(text, width, style)
  for (const [i, line] of lines.entries()) {
    // The blank between two lines is part of the text, though nobody sees it.
    drawLine(doc, i + 1 < lines.length ? `${line} ` : line, x, at, style, width)
    at += style.size * leading
  }
  return at
}

function useFace(doc: PDFKit.PDFDocument, face: Face, size: number): PDFKit.PDFDocument {
  // pdfkit takes a parsed font although its types do not say so: parsing again for each card costs most of its time.
  doc.registerFont(face, font(face) as unknown as Buffer)
  doc.font(face).fontSize(size)
  embed(doc, embedded(face))
  return doc
}
