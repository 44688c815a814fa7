import type { Point } from '../imaging/pixels'

/** By how many degrees lines of writing fall away, clockwise, and whether they run from top to bottom. */
export interface Leaning {
  skew: number
  sideways: boolean
}

/** A peak must stand out from what the other angles give, else what looks like a line is chance. */
const outstanding = 1.6
const mostPoints = 1500

/**
 * The angle of the lines from where letters stand: seen along the lines they fall into few rows, so that the sum of the squares of a
 * row's letters is largest there (projection of connected pieces: H. S. Baird, "The skew angle of printed documents", 1987; from
 * memory).
 *
 * @param points middles of letters, in pixels.
 * Columns of a table fall into rows both ways: which way the lines run is told better by the letters, and where that is known it is given.
 *
 * @param letterHeight in pixels; rows are counted half as high.
 * @returns null where no angle stands out.
 */
export function leaningOf(points: Point[], letterHeight: number, sideways?: boolean): Leaning | null {
  const step = Math.max(1, Math.floor(points.length / mostPoints))
  const used = points.filter((_, i) => i % step === 0)
  const row = Math.max(1, letterHeight / 2)
  const angles = Array.from({ length: 180 }, (_, i) => i - 45)
  const energies = angles.map(angle => energy(used, angle, row))
  const wanted = sideways === undefined ? energies : energies.map((found, i) => ((angles[i] ?? 0) > 45) === sideways ? found : 0)
  const best = wanted.indexOf(Math.max(...wanted))
  const usual = [...energies].sort((a, b) => a - b)[90] ?? 0
  if ((energies[best] ?? 0) < outstanding * usual) return null
  // Rows of an eighth of a letter part angles that rows of half of one do not; of the angles near the best the middle one is taken.
  const near = Array.from({ length: 31 }, (_, i) => (angles[best] ?? 0) - 1.5 + i / 10).map(angle => ({
    angle,
    energy: energy(used, angle, row / 4),
  }))
  const most = Math.max(...near.map(found => found.energy))
  const peak = near.filter(found => found.energy > most * 0.9)
  const angle = peak.reduce((sum, found) => sum + found.angle, 0) / peak.length
  const isDown = angle > 45
  return { skew: Number((isDown ? angle - 90 : angle).toFixed(1)) || 0, sideways: isDown }
}

/** Sum of the squares of the letters in each row, over all letters, where rows lean by an angle. */
function energy(points: Point[], degrees: number, row: number): number {
  const [cos, sin] = [Math.cos(degrees * Math.PI / 180), Math.sin(degrees * Math.PI / 180)]
  const counts = new Map<number, number>()
  for (const { x, y } of points) {
    const at = Math.floor((y * cos - x * sin) / row)
    counts.set(at, (counts.get(at) ?? 0) + 1)
  }
  let sum = 0
  for (const count of counts.values()) sum += count * count
  return sum / Math.max(1, points.length)
}
