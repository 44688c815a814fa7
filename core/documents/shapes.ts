import type { Piece } from '../imaging/paper'
import { biases, hidden, output, side, weights } from './shape-weights'

/**
 * Which way up the shapes of letters lie. A small net of one hidden layer gives each shape a score for lying upright; it is asked
 * four times, for the shape as it stands and turned by each quarter, so that a page and its turned copy are judged alike. Learnt from
 * made-up pages in the scripts and faces that `bench/train-letters.ts` names; of a script that it never saw it knows little, and says so
 * by scores that hardly differ.
 */
const cells = side * side
/** Shapes that a page is asked about at most. */
const mostShapes = 500
/** A shape longer than this is a word or joined letters; it is looked at through square windows as wide as it is high. */
const longFrom = 1.7

/** Darkness of one shape in cells of a square, row by row, 0 paper to 1 ink; its longer side fills the square. */
export type Shape = Float32Array

/** The shapes that the pieces of ink of a page make, spread evenly over it. `even` is luma on paper made even, 0 to 255. */
export function shapesOf(even: Float32Array, width: number, pieces: readonly Piece[], darkest: number): Shape[] {
  const sizes = pieces.map(longer).sort((a, b) => a - b)
  const usual = sizes[sizes.length >> 1] ?? 0
  const windows = pieces.flatMap(piece => windowsOf(piece, usual))
  const step = Math.max(1, windows.length / mostShapes)
  const chosen = Array.from({ length: Math.min(windows.length, mostShapes) }, (_, i) => windows[Math.floor(i * step)] ?? windows[0])
  return chosen.flatMap(window => window ? [shapeOf(even, width, window, darkest)] : [])
}

const longer = ({ left, right, top, bottom }: Piece) => Math.max(right - left, bottom - top) + 1

type Box = Omit<Piece, 'area'>

function windowsOf(piece: Piece, usual: number): Box[] {
  const [w, h] = [piece.right - piece.left + 1, piece.bottom - piece.top + 1]
  const [long, short] = [Math.max(w, h), Math.min(w, h)]
  // Dust, dots, and what is too small to have a shape.
  if (long < 5 || long < 0.4 * usual) return []
  // Strokes that are much longer than wide are no words: an l, an i, a slash.
  const isStroke = short < 0.45 * usual && long < 2.5 * usual
  if (long <= longFrom * short || isStroke) return [piece]
  const count = Math.ceil(long / short)
  return Array.from({ length: count }, (_, i): Box => {
    const from = Math.round(i * (long - short) / (count - 1))
    return w > h
      ? { ...piece, left: piece.left + from, right: piece.left + from + short - 1 }
      : { ...piece, top: piece.top + from, bottom: piece.top + from + short - 1 }
  })
}

/** Means over cells; the box lies in the middle of the square. */
function shapeOf(even: Float32Array, width: number, { left, right, top, bottom }: Box, darkest: number): Shape {
  const [w, h] = [right - left + 1, bottom - top + 1]
  const cell = Math.max(w, h) / side
  const [x0, y0] = [left - (side * cell - w) / 2, top - (side * cell - h) / 2]
  const shape = new Float32Array(cells)
  for (let row = 0; row < side; row += 1) {
    const [from, to] = [Math.max(top, y0 + row * cell), Math.min(bottom + 1, y0 + (row + 1) * cell)]
    if (to <= from) continue
    for (let column = 0; column < side; column += 1) {
      const [begin, end] = [Math.max(left, x0 + column * cell), Math.min(right + 1, x0 + (column + 1) * cell)]
      if (end > begin) {
        shape[row * side + column] = inkWithin(even, width, begin, end, from, to, darkest) * (end - begin) * (to - from) / (cell * cell)
      }
    }
  }
  return shape
}

/** Mean darkness within a rectangle whose ends may lie between pixels. */
function inkWithin(even: Float32Array, width: number, begin: number, end: number, from: number, to: number, darkest: number): number {
  let [sum, area] = [0, 0]
  for (let y = Math.floor(from); y < to; y += 1) {
    const tall = Math.min(to, y + 1) - Math.max(from, y)
    for (let x = Math.floor(begin); x < end; x += 1) {
      const share = tall * (Math.min(end, x + 1) - Math.max(begin, x))
      sum += share * even[y * width + x]!
      area += share
    }
  }
  const ink = (235 - sum / area) / Math.max(1, 235 - darkest)
  return ink < 0 ? 0 : ink > 1 ? 1 : ink
}

/** Where each cell of a square comes from when the square is turned clockwise by so many quarters. */
export const turnedCells: readonly Uint16Array[] = [0, 1, 2, 3].map(quarters =>
  Uint16Array.from({ length: cells }, (_, i) => {
    let [row, column] = [Math.floor(i / side), i % side]
    for (let q = 0; q < quarters; q += 1) [row, column] = [side - 1 - column, row]
    return row * side + column
  })
)

/** Scores of a shape turned clockwise by 0, 1, 2 and 3 quarters, for lying upright then. */
function scoresOf(shape: Shape): number[] {
  return turnedCells.map((from) => {
    let score = output[hidden]!
    for (let unit = 0; unit < hidden; unit += 1) {
      let sum = biases[unit]!
      for (let i = 0, at = unit * cells; i < cells; i += 1, at += 1) sum += weights[at]! * shape[from[i]!]!
      if (sum > 0) score += sum * output[unit]!
    }
    return score
  })
}

/**
 * How much the shapes speak for each turn by which a page would come upright: 0, 90, 180 and 270 degrees clockwise. Mean logarithms of
 * shares, at most 0; where nothing can be told all four are about the same. Null without shapes.
 */
export function evidenceOf(shapes: readonly Shape[]): number[] | null {
  if (shapes.length === 0) return null
  const sums = [0, 0, 0, 0]
  for (const shape of shapes) {
    const scores = scoresOf(shape)
    const most = Math.max(...scores)
    const all = most + Math.log(scores.reduce((sum, score) => sum + Math.exp(score - most), 0))
    // One odd shape never outweighs many: no share below one in fifty.
    scores.forEach((score, turn) => sums[turn]! += Math.max(score - all, Math.log(0.02)))
  }
  return sums.map(sum => sum / shapes.length)
}
