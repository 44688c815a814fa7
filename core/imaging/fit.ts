import type { Bound } from '../finding/finding'
import type { ImageRule } from '../notice/file-rules'
import type { Frame, Size } from './cut'
import type { Face } from './face'
import { middle, type Point } from './pixels'
import type { Turn } from './upright'

/** One thing done to a picture to bring it within the rules; kept with it and shown. Angles in degrees, sizes in pixels. */
export type Edit =
  | { kind: 'turned', degrees: 90 | 180 | 270 }
  | { kind: 'straightened', degrees: number }
  | { kind: 'cropped', /** Percent of the picture's area that was kept. */ kept: number }
  | { kind: 'wall continued', /** Percent of the new picture. */ share: number }
  | { kind: 'scaled', width: number, height: number }
  | { kind: 'wall evened', /** Percent of the pixels, and how far at most, in levels. */ share: number, most: number }
  | { kind: 'paper whitened', most: number }
  | { kind: 'compressed', quality: number, bytes: number }
  /** Rules that held before and fail now, for others that weigh more. */
  | { kind: 'given up', rules: number }
  /** Of documents: several files made one, single pages turned and straightened, pages of a PDF made pictures. */
  | { kind: 'put together', pages: number, files: number }
  | { kind: 'page turned', page: number, degrees: 90 | 180 | 270 }
  | { kind: 'page straightened', page: number, degrees: number }
  | { kind: 'pages redrawn', pages: number }

/** A frame and size that bring a picture within the rules as far as a crop can; `short` says what it lacks. */
export interface Fit {
  frame: Frame
  size: Size
}

/** The middle of a bound, or what is given where an end is open. */
const between = (bound: Bound | undefined, otherwise: number) =>
  bound?.min !== undefined && bound.max !== undefined ? (bound.min + bound.max) / 2 : bound?.min ?? bound?.max ?? otherwise

/** Width over height as the notice wants it. */
const aspectOf = (rule: ImageRule) => between(rule.aspect, between(rule.width, 400) / between(rule.height, 500))

/**
 * The size of the picture to be made: of the wanted shape, within the bounds, and no larger than the frame has pixels where the
 * bounds allow it: what is enlarged holds nothing new.
 */
export function sizeFor(rule: ImageRule, frame: Size, part = 0.35): Size {
  const aspect = aspectOf(rule)
  const least = Math.max(rule.width.min ?? 1, Math.ceil((rule.height.min ?? 1) * aspect))
  const most = Math.min(rule.width.max ?? 4000, Math.floor((rule.height.max ?? 4000) * aspect))
  // Some of the way to the largest leaves room for the file's size.
  const wanted = Math.round(least + (most - least) * part)
  const width = Math.max(least, Math.min(wanted, most, Math.round(frame.width)))
  const height = Math.round(width / aspect)
  return { width, height: Math.min(rule.height.max ?? height, Math.max(rule.height.min ?? height, height)) }
}

/** Edges at which the wall ends the picture, and may be continued beyond it; where a person or a thing reaches the edge it may not. */
export interface OpenEdges {
  left: boolean
  right: boolean
  top: boolean
}

/**
 * Cuts a portrait round its face: eyes level, the head as high as the middle of the notice's rule asks, midway between the sides. Where
 * the picture does not reach so far and its edge is not plain wall, the frame is made smaller and then moved, as far as the rules
 * allow and no farther than they must be broken: what was not taken with the picture is never made up.
 */
export function fitPortrait(picture: Size, turn: Turn, face: Face, rule: ImageRule, open: OpenEdges): Fit {
  const aspect = aspectOf(rule)
  const head = Math.hypot(face.chin.x - face.crown.x, face.chin.y - face.crown.y)
  const share = rule.face?.headHeight
  const [wanted, most] = [between(share, 50), share?.max === undefined ? between(share, 50) * 1.2 : share.max * 0.94]
  const eyes = middle(face.eyes[0].centre, face.eyes[1].centre)
  const angle = Math.abs(face.roll) < 1.5 ? 0 : face.roll
  let found: Frame | null = null
  for (let part = wanted; part <= most + 0.01; part += Math.max(0.5, (most - wanted) / 8)) {
    const height = head * 100 / part
    const frame = framed(picture, {
      turn,
      centre: below(eyes, angle, height * (50 - between(rule.face?.eyeLine, 45)) / 100),
      width: height * aspect,
      height,
      angle,
    }, open)
    found = frame
    if (Math.abs(frame.centre.x - eyes.x) * 100 / frame.width <= (rule.face?.offCentre?.max ?? 8) * 0.7) break
  }
  const frame = found ?? fitMiddle(picture, rule).frame
  return { frame, size: sizeFor(rule, frame) }
}

/** A place down the axis of a head that leans by an angle. */
function below(eyes: Point, angle: number, down: number): Point {
  return { x: eyes.x - Math.sin(angle * Math.PI / 180) * down, y: eyes.y + Math.cos(angle * Math.PI / 180) * down }
}

/** The frame moved onto the picture at every edge that may not be continued; at the bottom none may. */
function framed(picture: Size, frame: Frame, open: OpenEdges): Frame {
  const [halfWidth, halfHeight] = [Math.min(frame.width, picture.width) / 2, Math.min(frame.height, picture.height) / 2]
  let { x, y } = frame.centre
  if (!open.right) x = Math.min(x, picture.width - halfWidth)
  if (!open.left) x = Math.max(x, halfWidth)
  y = Math.min(y, picture.height - halfHeight)
  if (!open.top) y = Math.max(y, halfHeight)
  // Too wide a frame with nothing to continue it by becomes as wide as the picture is.
  const width = open.left || open.right ? frame.width : Math.min(frame.width, picture.width)
  const tall = open.top ? frame.height : Math.min(frame.height, picture.height)
  const times = Math.min(width / frame.width, tall / frame.height)
  return { ...frame, centre: { x, y }, width: frame.width * times, height: frame.height * times }
}

/** Percent of a frame that lies beyond the picture: wall that is continued. A leaning frame's own corners are left out. */
export function beyond(picture: Size, { centre, width, height }: Frame): number {
  const inside = (from: number, to: number, end: number) => Math.max(0, Math.min(end, to) - Math.max(0, from))
  const area = inside(centre.x - width / 2, centre.x + width / 2, picture.width)
    * inside(centre.y - height / 2, centre.y + height / 2, picture.height)
  return 100 * (1 - area / (width * height))
}

/** Cuts a picture of the wanted shape around a part that must be kept, such as the ink of a signature, with room on all sides. */
export function fitAround(part: { left: number, top: number, width: number, height: number }, rule: ImageRule): Fit {
  const aspect = aspectOf(rule)
  const room = 1.16
  const width = Math.max(part.width * room, part.height * room * aspect)
  const frame = {
    turn: 0 as const,
    centre: { x: part.left + part.width / 2, y: part.top + part.height / 2 },
    width,
    height: width / aspect,
    angle: 0,
  }
  return { frame, size: sizeFor(rule, frame) }
}

/** Cuts the largest middle part of the wanted shape, where nothing is known of what the picture shows. */
export function fitMiddle(picture: Size, rule: ImageRule): Fit {
  const aspect = aspectOf(rule)
  const width = Math.min(picture.width, picture.height * aspect)
  const frame = { turn: 0 as const, centre: { x: picture.width / 2, y: picture.height / 2 }, width, height: width / aspect, angle: 0 }
  return { frame, size: sizeFor(rule, frame) }
}

/** A JPEG and the quality that made it. */
export interface Encoded {
  bytes: Uint8Array
  quality: number
}

/**
 * The best quality, 40 to `best`, whose file lies within the bounds. A file that is too small even at the best quality is given as it
 * is: quality cannot make what is not there. Null when even the least quality is too large.
 *
 * @param encode makes a JPEG of a quality from 1 to 100; asked at most eight times.
 */
export async function withinBytes(encode: (quality: number) => Promise<Uint8Array>, bound: Bound, best = 95): Promise<Encoded | null> {
  const most = bound.max ?? Infinity
  let [low, high] = [40, best]
  const finest = { bytes: await encode(high), quality: high }
  if (finest.bytes.length <= most) return finest
  let found: Encoded | null = null
  while (low <= high) {
    const quality = Math.floor((low + high) / 2)
    const bytes = await encode(quality)
    if (bytes.length <= most) [found, low] = [{ bytes, quality }, quality + 1]
    else high = quality - 1
  }
  return found
}
