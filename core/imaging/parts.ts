import type { Piece } from './paper'

/** Of the whole ink's width or height that may lie between two parts of one signature; strokes of one name lie nearer together. */
const [gapAcross, gapDown] = [0.13, 0.06] as const
/** What is smaller, in ink or in extent, is a dot, a flourish or a line under the name. */
const leastShare = 0.22

/** How many things of about one weight the ink is made of: two stand for two signatures, or for a name in two words that lie far apart. */
export function partsOf(pieces: readonly Piece[]): number {
  const whole = around(pieces)
  const ink = pieces.reduce((sum, { area }) => sum + area, 0)
  const [width, height] = [whole.right - whole.left + 1, whole.bottom - whole.top + 1]
  const weighty = (part: readonly Piece[], extent: number) =>
    part.reduce((sum, { area }) => sum + area, 0) >= leastShare * ink && extent >= leastShare
  const across = groups(pieces, ({ left, right }) => [left, right], gapAcross * width).filter(part =>
    weighty(part, (around(part).right - around(part).left) / width)
  )
  const down = groups(pieces, ({ top, bottom }) => [top, bottom], gapDown * height).filter(part =>
    weighty(part, (around(part).bottom - around(part).top) / height)
  )
  return Math.max(1, across.length, down.length)
}

/** All pieces as one: their area and the box around them. At least one is wanted. */
export function around(pieces: readonly Piece[]): Piece {
  return pieces.reduce((all, p) => ({
    area: all.area + p.area,
    left: Math.min(all.left, p.left),
    right: Math.max(all.right, p.right),
    top: Math.min(all.top, p.top),
    bottom: Math.max(all.bottom, p.bottom),
  }))
}

/** Pieces parted wherever more than a gap lies between what came so far and what comes next. */
function groups(pieces: readonly Piece[], ends: (piece: Piece) => [number, number], gap: number): Piece[][] {
  const found: Piece[][] = []
  let reached = -Infinity
  for (const piece of [...pieces].sort((one, other) => ends(one)[0] - ends(other)[0])) {
    const [from, to] = ends(piece)
    const last = found.at(-1)
    if (last && from - reached <= gap) last.push(piece)
    else found.push([piece])
    reached = Math.max(reached, to)
  }
  return found
}

/** The largest stretch of paper that ink encloses, in pixels: of a loop small, of a house, a face or a stamp much of the whole. */
export function largestEnclosed(ink: Uint8Array, width: number, height: number): number {
  const wide = width + 2
  const closed = new Uint8Array(wide * (height + 2))
  for (let y = 0; y < height; y += 1) closed.set(ink.subarray(y * width, (y + 1) * width), (y + 1) * wide + 1)
  const flood = (start: number) => {
    let size = 0
    const open = [start]
    closed[start] = 1
    for (let at = open.pop(); at !== undefined; at = open.pop()) {
      size += 1
      for (const next of [at - 1, at + 1, at - wide, at + wide]) {
        if (closed[next] !== 0) continue
        closed[next] = 1
        open.push(next)
      }
    }
    return size
  }
  // The paper around everything comes first.
  flood(0)
  let most = 0
  for (let start = closed.indexOf(0); start !== -1; start = closed.indexOf(0, start + 1)) most = Math.max(most, flood(start))
  return most
}
