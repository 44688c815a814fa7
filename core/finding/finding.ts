/**
 * A finding is one measured or computed statement about an application: what was checked, the value with its unit,
 * the bound and the verdict. It is data; `words.en.ts` turns it into sentences.
 */
export type Verdict = 'pass' | 'fail' | 'unsure'

export type Unit =
  | 'bytes'
  | 'px'
  | 'mm'
  | 'dpi'
  | 'ratio'
  | 'percent'
  | 'degree'
  | 'years'
  | 'days'
  | 'level'
  | 'deltaE'
  | 'sharpness'
  | 'count'
  | 'none'

/** Inclusive at both ends; a missing end is open. */
export interface Bound {
  min?: number
  max?: number
}

export interface Finding {
  /** What was checked, e.g. `photograph.sharpness`; the key of its words. */
  code: string
  /** What it is about: a question's id, an image kind or a post's id. */
  about: string
  verdict: Verdict
  value: number | null
  unit: Unit
  bound: Bound | null
  /** Everything else the words need. Plain values only, so that a finding survives JSON unchanged. */
  parameters: Record<string, string | number | boolean | null>
  /** The clause of the notice that a rule carries out, for findings of eligibility. */
  origin?: Origin
  /** The findings that this one is made of, for a rule of several ways. */
  parts?: Finding[]
  /** How the value was found, line by line. */
  working?: WorkingLine[]
}

/** Where a rule stands: the post's title, the place in the notice's text, and the clause's code. */
export interface Origin {
  post: string
  clause: string
  rule: string
}

/** One line of a working, as data; its words stand in `core/words`. */
export interface WorkingLine {
  code: string
  parameters: Record<string, string | number>
}

/** The verdict of a value against an inclusive bound; `margin` on either side of a limit counts as unsure. */
export function verdictWithin(value: number, bound: Bound, margin = 0): Verdict {
  const below = bound.min === undefined ? Infinity : value - bound.min
  const above = bound.max === undefined ? Infinity : bound.max - value
  const room = Math.min(below, above)
  if (margin > 0 && Math.abs(room) < margin) return 'unsure'
  return room >= 0 ? 'pass' : 'fail'
}
