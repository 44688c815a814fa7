import { colourAt, colourDistance, nearestAllowed, readBackground, type Colour } from './background'
import { labOf } from './colour'
import type { Face } from './face'
import type { ImageRule } from '../notice/file-rules'
import type { RgbPixels } from './pixels'

/** No pixel of the wall is changed by more than this in any channel: what differs more is not the wall's to change. */
export const wallLimit = 20
/** How far a pixel may lie from the wall's middle colour and still be the wall, in levels. */
const alike = 42

export interface Evened {
  pixels: RgbPixels
  /** Percent of the pixels that were changed. */
  share: number
  /** Largest change of a channel, in levels. */
  most: number
}

/**
 * Evens out the wall behind a person: pixels that hang together with the upper and side edges and are nearly of the wall's colour are
 * drawn towards the nearest colour the notice allows, by `wallLimit` levels at most. Head and shoulders are never touched, whatever their
 * colour: a head's room around the face, and all below it within the width of the shoulders.
 */
export function evenWall(pixels: RgbPixels, face: Face, rule: ImageRule): Evened {
  const wall = readBackground(pixels, face).colour
  const target = wantedColour(wall, rule)
  const hang = hangingTogether(pixels, wall, face)
  const data = Uint8Array.from(pixels.data)
  let [changed, most] = [0, 0]
  for (let i = 0; i < hang.length; i += 1) {
    if (hang[i] !== 1) continue
    let own = 0
    for (let c = 0; c < 3; c += 1) {
      const before = data[i * 3 + c] ?? 0
      const step = Math.round(Math.min(wallLimit, Math.max(-wallLimit, (target[c] ?? 0) - before)))
      data[i * 3 + c] = before + step
      own = Math.max(own, Math.abs(step))
    }
    if (own > 0) changed += 1
    most = Math.max(most, own)
  }
  return { pixels: { ...pixels, data }, share: 100 * changed / Math.max(1, hang.length), most }
}

/** The allowed colour nearest to the wall's own; its own where the notice names none. */
function wantedColour(wall: Colour, rule: ImageRule): Colour {
  if (rule.backgrounds.length === 0) return wall
  // A wall that is right already stays as it is, but for its unevenness.
  const { L } = labOf(...wall)
  return L > 97 ? wall : nearestAllowed(wall, rule.backgrounds).colour
}

function hangingTogether(pixels: RgbPixels, wall: Colour, face: Face): Uint8Array {
  const { width, height } = pixels
  const hang = new Uint8Array(width * height)
  const isWall = (i: number) =>
    colourDistance(colourAt(pixels, i % width, Math.floor(i / width)), wall) <= alike && !isPerson(i % width, Math.floor(i / width), face)
  const open: number[] = []
  const take = (i: number) => {
    if (hang[i] !== 0) return
    hang[i] = isWall(i) ? 1 : 2
    if (hang[i] === 1) open.push(i)
  }
  for (let x = 0; x < width; x += 1) take(x)
  for (let y = 0; y < height; y += 1) [y * width, y * width + width - 1].forEach(take)
  for (let i = open.pop(); i !== undefined; i = open.pop()) {
    const x = i % width
    if (x > 0) take(i - 1)
    if (x < width - 1) take(i + 1)
    if (i >= width) take(i - width)
    if (i + width < hang.length) take(i + width)
  }
  return hang
}

/** Room that belongs to the person: an oval about the head with its hair, and below the mouth all between the shoulders. */
function isPerson(x: number, y: number, face: Face): boolean {
  const head = face.chin.y - face.crown.y
  const [cx, cy] = [(face.chin.x + face.crown.x) / 2, (face.chin.y + face.crown.y) / 2]
  const oval = ((x - cx) / (head * 0.44)) ** 2 + ((y - cy) / (head * 0.56)) ** 2 < 1
  return oval || (y > face.chin.y - head * 0.12 && Math.abs(x - cx) < head * (0.3 + 0.9 * (y - face.chin.y + head * 0.12) / head))
}
