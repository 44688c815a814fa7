import { labOf } from './colour'
import type { RgbPixels } from './pixels'

/** Colours of ink that a notice may name. */
export const inkNames = ['black', 'blue', 'violet', 'magenta', 'red', 'brown', 'green', 'turquoise'] as const
export type InkName = typeof inkNames[number]

/** Below this chroma ink is black or grey, whatever its hue. */
const leastChroma = 12
/** Where each hue ends, in degrees of CIELAB; ballpoints, felt pens and fountain pens on white paper, by eye. */
const hues: readonly (readonly [number, InkName])[] = [[12, 'magenta'], [48, 'red'], [95, 'brown'], [190, 'green'], [228, 'turquoise'], [
  312,
  'blue',
], [328, 'violet'], [360, 'magenta']]

/**
 * Shares of the ink's darkness by its colour, together 1, judged on the ink's own pixels of a picture `asOnWhite`. Null without ink.
 */
export function inkColours({ data }: RgbPixels, ink: Uint8Array, even: Float32Array): Record<InkName, number> | null {
  const shares = Object.fromEntries(inkNames.map(name => [name, 0])) as Record<InkName, number>
  let all = 0
  for (let i = 0; i < ink.length; i += 1) {
    if (ink[i] === 0) continue
    const { a, b } = labOf(data[i * 3]!, data[i * 3 + 1]!, data[i * 3 + 2]!)
    const weight = 235 - even[i]!
    shares[nameOf(a, b)] += weight
    all += weight
  }
  if (all === 0) return null
  for (const name of inkNames) shares[name] /= all
  return shares
}

function nameOf(a: number, b: number): InkName {
  if (Math.hypot(a, b) < leastChroma) return 'black'
  const hue = (Math.atan2(b, a) * 180 / Math.PI + 360) % 360
  return hues.find(([end]) => hue < end)?.[1] ?? 'magenta'
}

/** The same picture as on white paper: each channel is divided by that of the paper, so that yellow light or paper gives no colour. */
export function asOnWhite({ width, height, data }: RgbPixels, ink: Uint8Array): RgbPixels {
  const paper = paperColour(data, ink)
  const times = paper.map(level => 250 / level)
  const made = new Uint8Array(data.length)
  for (let i = 0; i < data.length; i += 3) for (let c = 0; c < 3; c += 1) made[i + c] = Math.min(255, data[i + c]! * times[c]!)
  return { width, height, data: made }
}

/** Mean colour of what is not ink. */
function paperColour(data: Uint8Array, ink: Uint8Array): number[] {
  const sums = [0, 0, 0]
  let count = 0
  for (let i = 0; i < ink.length; i += 1) {
    if (ink[i] === 1) continue
    for (let c = 0; c < 3; c += 1) sums[c]! += data[i * 3 + c]!
    count += 1
  }
  return sums.map(sum => Math.max(30, sum / Math.max(1, count)))
}
