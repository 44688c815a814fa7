import * as harfbuzz from 'harfbuzzjs'
import type { Font } from 'fontkit'
import type { LaidOut } from './embedding'

/**
 * Lays texts out in a face as HarfBuzz does: which shapes, in which order, where. It joins and reorders letters by the rules of each script
 * (OpenType Layout, "Developing fonts for script families").
 *
 * @param bytes the face.
 * @param font the same face, for the widths of its glyphs.
 * @returns for a text of one direction and script its glyphs as they are seen from left to right, lengths in thousandths of the size.
 */
export function shaperOf(bytes: Uint8Array, font: Font): (text: string) => LaidOut {
  const face = new harfbuzz.Face(new harfbuzz.Blob(Uint8Array.from(bytes).buffer))
  const shaped = new harfbuzz.Font(face)
  const scale = 1000 / font.unitsPerEm
  const widths = new Map<number, number>()
  const widthOf = (id: number) => {
    const known = widths.get(id) ?? font.getGlyph(id).advanceWidth
    widths.set(id, known)
    return known
  }
  return (text) => {
    const buffer = new harfbuzz.Buffer()
    buffer.addText(text)
    // Letters that do not melt together stay apart, so that each shape can tell its own.
    buffer.setClusterLevel(rightToLeft.test(text) ? harfbuzz.ClusterLevel.MONOTONE_GRAPHEMES : harfbuzz.ClusterLevel.MONOTONE_CHARACTERS)
    buffer.setLanguage('und')
    buffer.guessSegmentProperties()
    harfbuzz.shape(shaped, buffer)
    const infos = buffer.getGlyphInfos()
    const letters = lettersOf(text, infos.map(glyph => glyph.cluster))
    const glyphs = infos.map(({ codepoint: id }, i) => ({ id, codePoints: letters[i] ?? [], advanceWidth: widthOf(id) }))
    const positions = buffer.getGlyphPositions().map(({ xAdvance, yAdvance, xOffset, yOffset }, i) => ({
      xAdvance: xAdvance * scale,
      yAdvance: yAdvance * scale,
      xOffset: xOffset * scale,
      yOffset: yOffset * scale,
      advanceWidth: widthOf(infos[i]?.codepoint ?? 0) * scale,
    }))
    return { glyphs, positions, advanceWidth: positions.reduce((sum, position) => sum + position.xAdvance, 0) }
  }
}

const rightToLeft = /[\p{Script=Arabic}\p{Script=Hebrew}]/u

/**
 * The letters that each glyph tells: those of its cluster, for the glyph that is read first of it; the others tell nothing. What runs from
 * right to left stands there as it is seen, letter by letter: readers of papers turn it round.
 */
function lettersOf(text: string, clusters: readonly number[]): number[][] {
  if (rightToLeft.test(text)) return lettersInOrder(text, [...clusters].reverse()).reverse().map(letters => letters.reverse())
  return lettersInOrder(text, clusters)
}

function lettersInOrder(text: string, clusters: readonly number[]): number[][] {
  const starts = [...new Set(clusters)].sort((a, b) => a - b)
  const endOf = new Map(starts.map((start, i) => [start, starts[i + 1] ?? text.length]))
  const told = new Set<number>()
  return clusters.map((start) => {
    if (told.has(start)) return []
    told.add(start)
    return Array.from(text.slice(start, endOf.get(start)), letter => letter.codePointAt(0) ?? 0)
  })
}
