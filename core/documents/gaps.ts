/** A piece of ink that may be a letter, by its middle and size, in pixels. */
export interface Letter {
  x: number
  y: number
  width: number
  height: number
}

/** Neighbours farther off than so many letters belong to something else. */
const reach = 5
/** One gap must be this much smaller than the other before it counts as a sign. */
const clearlySmaller = 0.7
/** With fewer signs nothing is said. */
const fewest = 8

/**
 * How letters are nearer to each other along a line than across lines: the lead of those whose next letter to the side is nearer than
 * the next one below, -1 (all below) to 1 (all to the side). Spacing as typesetters have it; nearest neighbours as a sign of lines:
 * L. O'Gorman, "The document spectrum for page layout analysis", 1993; from memory. True of aligned columns as well, whose letters stand
 * under one another.
 *
 * @param degrees by which lines lean, clockwise.
 * @returns null where too few letters have neighbours.
 */
export function gapLead(letters: readonly Letter[], degrees: number): number | null {
  const [cos, sin] = [Math.cos(degrees * Math.PI / 180), Math.sin(degrees * Math.PI / 180)]
  const level = letters.map(({ x, y, ...size }): Letter => ({ x: x * cos + y * sin, y: y * cos - x * sin, ...size }))
  const sizes = level.map(({ width, height }) => Math.max(width, height)).sort((a, b) => a - b)
  const usual = sizes[sizes.length >> 1] ?? 1
  const nearby = within(level, usual * reach)
  let [beside, below] = [0, 0]
  for (const one of level) {
    let [across, down] = [Infinity, Infinity]
    for (const other of nearby(one)) {
      const [dx, dy] = [Math.abs(other.x - one.x), Math.abs(other.y - one.y)]
      const [wide, high] = [(one.width + other.width) / 2, (one.height + other.height) / 2]
      if (dy < high * 0.6 && dx >= wide * 0.6) across = Math.min(across, Math.max(dx - wide, 0.5))
      else if (dx < wide * 0.6 && dy >= high * 0.6) down = Math.min(down, Math.max(dy - high, 0.5))
    }
    if (Math.min(across, down) > usual * reach) continue
    if (across < clearlySmaller * down) beside += 1
    else if (down < clearlySmaller * across) below += 1
  }
  return beside + below < fewest ? null : (beside - below) / (beside + below)
}

/** Letters in squares of a size, so that only those around one are looked at. */
function within(letters: readonly Letter[], size: number): (of: Letter) => Letter[] {
  const squares = new Map<string, Letter[]>()
  const at = (x: number, y: number) => `${Math.floor(x / size)},${Math.floor(y / size)}`
  for (const letter of letters) {
    const key = at(letter.x, letter.y)
    const square = squares.get(key)
    if (square) square.push(letter)
    else squares.set(key, [letter])
  }
  const steps = [-size, 0, size]
  return of => steps.flatMap(dx => steps.flatMap(dy => squares.get(at(of.x + dx, of.y + dy)) ?? [])).filter(other => other !== of)
}
