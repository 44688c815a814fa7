import { deltaE2000, labOf } from './colour'
import { lumaOf, part, type Box, type RgbPixels } from './pixels'

/** Where a head is, as far as its wall is concerned: the box of its face, and the chin. */
interface Head {
  box: Box
  chin: { y: number }
}

export type Colour = [number, number, number]
export const colourDistance = (a: Colour, b: Colour) => Math.sqrt((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2)

export function colourAt(pixels: RgbPixels, x: number, y: number): Colour {
  const p = (y * pixels.width + x) * 3
  return [pixels.data[p] ?? 0, pixels.data[p + 1] ?? 0, pixels.data[p + 2] ?? 0]
}

/** Parts of the picture that show the wall: beside the head when it is known, else the upper corners. */
export function besideTheHead(pixels: RgbPixels, face?: Head): Box[] {
  const corners = [part(pixels, 0, 0, 0.16, 0.3), part(pixels, 0.84, 0, 0.16, 0.3)]
  if (!face) return corners
  // Hair and ears reach beyond the face; a third of its width more leaves room for them.
  const [left, right] = [Math.round(face.box.left - face.box.width * 0.35), Math.round(face.box.left + face.box.width * 1.35)]
  const height = Math.round(Math.min(pixels.height * 0.5, Math.max(face.chin.y, pixels.height * 0.2)))
  const boxes = [{ left: 0, top: 0, width: left, height }, { left: right, top: 0, width: pixels.width - right, height }].filter(box =>
    box.width >= pixels.width * 0.04
  )
  return boxes.length > 0 ? boxes : corners
}

export interface Background {
  /** Middle colour of the wall. */
  colour: Colour
  /** Mean distance of its pixels from their own mean colour, in levels. */
  spread: number
  /** Percent by which the darkest piece of it lies under the lightest: a shadow thrown on the wall. */
  shadow: number
  /** The darkest piece. */
  darkest: Box
  boxes: Box[]
}

const piece = 16

export function readBackground(pixels: RgbPixels, face?: Head): Background {
  const boxes = besideTheHead(pixels, face)
  const samples = samplesOf(pixels, boxes)
  const n = Math.max(1, samples.length / 3)
  const histograms = [new Uint32Array(256), new Uint32Array(256), new Uint32Array(256)] as const
  for (let i = 0; i < samples.length; i += 3) for (let c = 0; c < 3; c += 1) histograms[c]![samples[i + c]!]! += 1
  const mean = histograms.map(histogram => histogram.reduce((sum, count, level) => sum + count * level, 0) / n) as Colour
  let spread = 0
  for (let i = 0; i < samples.length; i += 3) {
    spread += Math.sqrt((samples[i]! - mean[0]) ** 2 + (samples[i + 1]! - mean[1]) ** 2 + (samples[i + 2]! - mean[2]) ** 2)
  }
  return { colour: histograms.map(histogram => middleOf(histogram, n)) as Colour, spread: spread / n, ...shadowOf(pixels, boxes), boxes }
}

/** Channels of every other pixel of some parts, one after another. */
function samplesOf(pixels: RgbPixels, boxes: Box[]): Uint8Array {
  const found = new Uint8Array(boxes.reduce((sum, box) => sum + Math.ceil(box.width / 2) * Math.ceil(box.height / 2) * 3, 0))
  let at = 0
  for (const box of boxes) {
    for (let y = box.top; y < box.top + box.height; y += 2) {
      for (let x = box.left; x < box.left + box.width; x += 2) {
        const p = (y * pixels.width + x) * 3
        found[at++] = pixels.data[p]!
        found[at++] = pixels.data[p + 1]!
        found[at++] = pixels.data[p + 2]!
      }
    }
  }
  return found
}

function middleOf(histogram: Uint32Array, count: number): number {
  let [level, below] = [0, histogram[0] ?? 0]
  while (level < 255 && below <= count / 2) below += histogram[level += 1] ?? 0
  return level
}

function shadowOf(pixels: RgbPixels, boxes: Box[]): { shadow: number, darkest: Box } {
  const luma = lumaOf(pixels)
  let [darkest, least, most] = [boxes[0] ?? part(pixels, 0, 0, 0.1, 0.1), Infinity, 0]
  for (const box of boxes) {
    for (let top = box.top; top + piece <= box.top + box.height; top += piece) {
      for (let left = box.left; left + piece <= box.left + box.width; left += piece) {
        let sum = 0
        for (let y = top; y < top + piece; y += 1) for (let x = left; x < left + piece; x += 1) sum += luma[y * pixels.width + x] ?? 0
        const level = sum / piece ** 2
        most = Math.max(most, level)
        if (level < least) [least, darkest] = [level, { left, top, width: piece, height: piece }]
      }
    }
  }
  return { shadow: least === Infinity ? 0 : 100 * (1 - least / Math.max(1, most)), darkest }
}

export const hexOf = (colour: Colour) => `#${colour.map(v => Math.round(v).toString(16).padStart(2, '0')).join('')}`
const channelsOf = (hex: string) => [1, 3, 5].map(at => Number.parseInt(hex.slice(at, at + 2), 16)) as Colour

/** The allowed colour that lies nearest, and how far it is (CIEDE2000). */
export function nearestAllowed(
  colour: Colour,
  allowed: { title: string, colour: string }[],
): { title: string, colour: Colour, distance: number } {
  const own = labOf(...colour)
  const [nearest] = allowed.map(({ title, colour: hex }) => ({ title, colour: channelsOf(hex) })).map(one => ({
    ...one,
    distance: deltaE2000(own, labOf(...one.colour)),
  })).sort((a, b) => a.distance - b.distance)
  return nearest ?? { title: '', colour, distance: 100 }
}

/** Share of a part, 0 to 1, that is far from a colour. */
export function shareUnlike(pixels: RgbPixels, box: Box, colour: Colour): number {
  let unlike = 0
  for (let y = box.top; y < box.top + box.height; y += 1) {
    for (let x = box.left; x < box.left + box.width; x += 1) {
      const p = (y * pixels.width + x) * 3
      if ((pixels.data[p]! - colour[0]) ** 2 + (pixels.data[p + 1]! - colour[1]) ** 2 + (pixels.data[p + 2]! - colour[2]) ** 2 > 60 ** 2) {
        unlike += 1
      }
    }
  }
  return unlike / Math.max(1, box.width * box.height)
}
