import type { Turn } from '../imaging/upright'
import { gapLead, type Letter } from './gaps'
import { leaningOf } from './leaning'
import { evidenceOf, type Shape } from './shapes'

/** How the writing of a page lies; each null where it cannot be told. */
export interface Direction {
  skew: number | null
  sideways: boolean | null
  turn: Turn | null
}

export const untold: Direction = { skew: null, sideways: null, turn: null }

/** So many make lines that are no chance; blots into which blurred letters have run are fewer. */
const fewestForLines = 40
/**
 * Bounds as found on pages of faces that were kept from the learning: see bench/README.md. Margins are mean logarithms of shares, sums
 * those of all shapes.
 */
const [clearAxis, clearUp, clearSum] = [0.5, 0.32, 12]
const clearLead = 0.5
const strongLead = 0.85
/** Shapes that lean more than this, in degrees, are no longer those that were learnt. */
const mostLean = 12

/**
 * Which way the lines of a page run and which way up it lies. Two signs that have nothing in common must not disagree: the shapes of the
 * letters, and the gaps between them. How letters fall into rows (leaningOf) gives the angle only: columns do so as well.
 */
export function directionOf(letters: readonly Letter[], letterHeight: number, shapes: readonly Shape[]): Direction {
  const rows = (sideways?: boolean) => letters.length < fewestForLines ? null : leaningOf([...letters], letterHeight, sideways)
  const leaning = rows()
  const skew = leaning?.skew ?? 0
  const evidence = Math.abs(skew) > mostLean ? null : evidenceOf(shapes)
  const sideways = axisOf(evidence, shapes.length, gapLead(letters, skew))
  const told = sideways === null || sideways === leaning?.sideways ? leaning : rows(sideways)
  return { skew: told?.skew ?? null, sideways, turn: sideways === null ? null : upOf(evidence, shapes.length, sideways) }
}

function axisOf(evidence: number[] | null, count: number, lead: number | null): boolean | null {
  const [up = 0, right = 0, down = 0, left = 0] = evidence ?? []
  // Above 0 lines run from side to side.
  const margin = Math.max(up, down) - Math.max(right, left)
  const gaps = lead ?? 0
  if (Math.abs(margin) >= clearAxis && Math.abs(margin) * count >= clearSum) {
    return gaps * margin < 0 && Math.abs(gaps) >= strongLead
      ? null
      : margin < 0
  }
  if (Math.abs(gaps) < clearLead) return null
  return margin * gaps < 0 && Math.abs(margin) >= clearUp ? null : gaps < 0
}

function upOf(evidence: number[] | null, count: number, sideways: boolean): Turn | null {
  if (!evidence) return null
  const [one, other] = sideways ? [90, 270] as const : [0, 180] as const
  const margin = (evidence[one / 90] ?? 0) - (evidence[other / 90] ?? 0)
  return Math.abs(margin) < clearUp || Math.abs(margin) * count < clearSum ? null : margin > 0 ? one : other
}
