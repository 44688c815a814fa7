import { colourAt, shareUnlike, type Colour } from './background'
import type { RgbPixels } from './pixels'

/** A clockwise turn by quarters, in degrees. */
export type Turn = 0 | 90 | 180 | 270

/**
 * The turn that brings a portrait upright, by its edges alone: the shoulders meet the lower edge, so of the four edges the lower one
 * holds most that is not background, and the upper one next to nothing. Null when no edge stands out, as before anything but a wall.
 */
export function turnByEdges(pixels: RgbPixels): Turn | null {
  const background = commonEdgeColour(pixels)
  const depth = Math.max(1, Math.round(Math.min(pixels.width, pixels.height) * 0.03))
  const { width, height } = pixels
  const edges: { turn: Turn, share: number }[] = [
    { turn: 0 as const, box: { left: 0, top: height - depth, width, height: depth } },
    { turn: 90 as const, box: { left: width - depth, top: 0, width: depth, height } },
    { turn: 180 as const, box: { left: 0, top: 0, width, height: depth } },
    { turn: 270 as const, box: { left: 0, top: 0, width: depth, height } },
  ].map(({ turn, box }) => ({ turn, share: shareUnlike(pixels, box, background) }))
  const [first, second] = [...edges].sort((a, b) => b.share - a.share)
  if (!first || !second || first.share < 0.3 || first.share - second.share < 0.15) return null
  const opposite = edges.find(edge => edge.turn === (first.turn + 180) % 360)
  return opposite && opposite.share < 0.1 ? first.turn : null
}

/** The commonest colour of the picture's edges. */
function commonEdgeColour(pixels: RgbPixels): Colour {
  const bins = new Map<number, { count: number, sum: Colour }>()
  const take = (x: number, y: number) => {
    const colour = colourAt(pixels, x, y)
    const key = (colour[0] >> 5) * 64 + (colour[1] >> 5) * 8 + (colour[2] >> 5)
    const bin = bins.get(key) ?? { count: 0, sum: [0, 0, 0] }
    bin.count += 1
    bin.sum = [bin.sum[0] + colour[0], bin.sum[1] + colour[1], bin.sum[2] + colour[2]]
    bins.set(key, bin)
  }
  for (let x = 0; x < pixels.width; x += 1) [0, pixels.height - 1].forEach(y => take(x, y))
  for (let y = 0; y < pixels.height; y += 1) [0, pixels.width - 1].forEach(x => take(x, y))
  const best = [...bins.values()].sort((a, b) => b.count - a.count)[0] ?? { count: 1, sum: [255, 255, 255] as Colour }
  return best.sum.map(sum => sum / best.count) as Colour
}
