/** A piece of ink that may be a letter, by its middle and size, in pixels. */
export interface Letter { x: number, y: number, width: number, height: number }

/** With fewer tall letters nothing is said; and of those that stand out, so many more must do so to one side. */
const fewestTall = 20
const clearLead = 0.3

/**
 * Whether lines of writing stand on their feet or on their head: strokes above the small letters, capitals and figures are much more
 * frequent than strokes below them (ascenders and descenders: D. Bloomberg, G. Kopec, L. Dasari, "Measuring document image skew and
 * orientation", 1995; from memory). True of Latin letters; other scripts give no lead, or a wrong one, so it is a hint.
 *
 * @param degrees the angle of the lines, clockwise: about 0, or about 90 where they run from top to bottom.
 * @returns true where the tops of letters are to the left of the way the lines run, as in upright writing; null where it cannot be told.
 */
export function onItsFeet(letters: readonly Letter[], degrees: number): boolean | null {
  const [cos, sin] = [Math.cos(degrees * Math.PI / 180), Math.sin(degrees * Math.PI / 180)]
  const level = letters.map(({ x, y, width, height }) => ({ x: x * cos + y * sin, y: y * cos - x * sin, height: Math.abs(degrees) > 45 ? width : height }))
  const usual = [...level].sort((a, b) => a.height - b.height)[level.length >> 1]?.height ?? 1
  const small = level.filter(({ height }) => height >= usual * 0.75 && height <= usual * 1.2).sort((a, b) => a.x - b.x)
  let [above, below] = [0, 0]
  for (const tall of level) {
    if (tall.height < usual * 1.25 || tall.height > usual * 2.3) continue
    const beside = small.filter(({ x, y }) => Math.abs(x - tall.x) <= usual * 12 && Math.abs(y - tall.y) <= usual * 0.8)
    if (beside.length < 2) continue
    const off = tall.y - beside.reduce((sum, { y }) => sum + y, 0) / beside.length
    if (off < -usual * 0.12) above += 1
    else if (off > usual * 0.12) below += 1
  }
  const lead = (above - below) / Math.max(1, above + below)
  return above + below < fewestTall || Math.abs(lead) < clearLead ? null : lead > 0
}
