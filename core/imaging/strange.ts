import { labOf, type Lab } from './colour'
import type { RgbPixels } from './pixels'

const block = 12
/** Of another colour than the paper by more than warm light makes it, or darker than any soft shadow. In CIELAB. */
const [leastChroma, leastDarker] = [9, 30] as const

/**
 * Percent of the picture that is neither paper nor ink and reaches its edge: a finger that holds the paper, the table under it. Told by the
 * bright end of small blocks, which of a block with strokes of ink is still paper; a soft shadow is as grey as the paper is.
 */
export function strangeShare({ width, height, data }: RgbPixels): number {
  const [columns, rows] = [Math.floor(width / block), Math.floor(height / block)]
  if (columns < 3 || rows < 3) return 0
  const colours = Array.from(
    { length: columns * rows },
    (_, i) => brightOf(data, width, (i % columns) * block, Math.floor(i / columns) * block),
  )
  const paper = middleOf(colours)
  const strange = colours.map(({ L, a, b }) => Math.hypot(a - paper.a, b - paper.b) >= leastChroma || paper.L - L >= leastDarker)
  const seen = new Set<number>()
  const open = strange.flatMap((is, i) =>
    is && (i % columns === 0 || i % columns === columns - 1 || i < columns || i >= columns * (rows - 1)) ? [i] : []
  )
  for (let at = open.pop(); at !== undefined; at = open.pop()) {
    if (seen.has(at)) continue
    seen.add(at)
    const column = at % columns
    for (const next of [column > 0 ? at - 1 : -1, column < columns - 1 ? at + 1 : -1, at - columns, at + columns]) {
      if (strange[next]) open.push(next)
    }
  }
  return 100 * seen.size / strange.length
}

/** Mean colour of those pixels of a block that are at least as bright as its mean. */
function brightOf(data: Uint8Array, width: number, left: number, top: number): Lab {
  const light = (i: number) => data[i]! * 0.3 + data[i + 1]! * 0.6 + data[i + 2]! * 0.1
  let sum = 0
  for (let y = top; y < top + block; y += 1) for (let x = left; x < left + block; x += 1) sum += light((y * width + x) * 3)
  const mean = sum / (block * block) - 0.01
  let [red, green, blue, count] = [0, 0, 0, 0]
  for (let y = top; y < top + block; y += 1) {
    for (let x = left; x < left + block; x += 1) {
      const i = (y * width + x) * 3
      if (light(i) < mean) continue
      red += data[i]!
      green += data[i + 1]!
      blue += data[i + 2]!
      count += 1
    }
  }
  return labOf(red / count, green / count, blue / count)
}

function middleOf(colours: readonly Lab[]): Lab {
  const of = (key: keyof Lab) => colours.map(colour => colour[key]).sort((one, other) => one - other)[colours.length >> 1] ?? 0
  return { L: of('L'), a: of('a'), b: of('b') }
}
