import { verdictWithin, type Bound, type Finding, type Unit, type Verdict } from '../finding/finding'
import type { ImageKind } from '../notice/schema'
import type { Box, Point } from './pixels'

/** What a finding says of a picture, besides value and bound. */
interface Extra {
  verdict?: Verdict
  margin?: number
  parameters?: Finding['parameters']
}

/** One measure of an image against its bound; within `margin` of a limit the verdict is left to a person. */
export function imageFinding(
  kind: ImageKind,
  code: string,
  value: number,
  places: number,
  unit: Unit,
  bound: Bound,
  extra: Extra = {},
): Finding {
  // Zero has no sign: minus nothing would not survive being sent.
  const rounded = Number(value.toFixed(places)) || 0
  return {
    code: `${kind}.${code}`,
    about: kind,
    verdict: extra.verdict ?? verdictWithin(rounded, bound, extra.margin),
    value: rounded,
    unit,
    bound,
    parameters: extra.parameters ?? {},
  }
}

/**
 * Where on the picture a finding was measured, to be drawn over it. Points are shares of width and height, 0 to 1, from the
 * top left of the picture as it is shown.
 */
export interface Mark {
  code: string
  shape: 'line' | 'area'
  points: Point[]
}

/** The mark of a part of the picture. */
export const areaMark = (code: string, { left, top, width, height }: Box): Mark => ({
  code: `photograph.${code}`,
  shape: 'area',
  points: [{ x: left, y: top }, { x: left + width, y: top }, { x: left + width, y: top + height }, { x: left, y: top + height }],
})

/** Findings of one image, and where they were measured. */
export interface Measurement {
  findings: Finding[]
  marks: Mark[]
}
