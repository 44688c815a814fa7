import type { Finding } from '../finding/finding'
import type { ImageKind } from '../notice/schema'
import type { ImageRule } from '../notice/file-rules'
import { nearestAllowed, readBackground, shareUnlike } from './background'
import { cut, enlarged, throughFrame, turned, type Frame, type Size } from './cut'
import { faceAt, theFace, type Face } from './face'
import { beyond, fitAround, fitMiddle, fitPortrait, sizeFor, withinBytes, type Edit, type Fit, type OpenEdges } from './fit'
import { measureImage } from './measure'
import type { Picture } from './picture'
import type { RgbPixels } from './pixels'
import { layingTurn, measureSignature, whitenPaper } from './signature'
import type { Turn } from './upright'
import { evenWall } from './wall'

/**
 * What the making of a picture needs from outside: all its pixels, a maker of JPEGs (quality 1 to 100), and a look at what was made, for
 * faces too.
 */
export interface Workshop {
  whole: () => Promise<RgbPixels>
  encode: (pixels: RgbPixels, quality: number) => Promise<Uint8Array>
  look: (bytes: Uint8Array) => Promise<Picture>
}

/** A picture brought within the rules as far as that can be, all that was done to it, and what is seen on it now. */
export interface Made extends Written {
  picture: Picture
}
interface Written {
  bytes: Uint8Array
  size: Size
  edits: Edit[]
}

/** Why nothing was made: no compression brings it below the notice's bytes, or whatever is done breaks more rules than it mends. */
export type Unmade = 'too heavy' | 'no better'

/** How much is done. Later ways do less: each step costs something, and a picture whose rules hold is not to lose them. */
interface Way {
  straighten: boolean
  even: boolean
  frame: 'round the face' | 'middle'
  size: 'handy' | 'as large as it may be'
}
const full: Way = { straighten: true, even: true, frame: 'round the face', size: 'handy' }
const ways: readonly Way[] = [
  full,
  { ...full, size: 'as large as it may be' },
  { ...full, even: false, size: 'as large as it may be' },
  { ...full, straighten: false, size: 'as large as it may be' },
  { straighten: false, even: false, frame: 'round the face', size: 'as large as it may be' },
  { straighten: false, even: false, frame: 'middle', size: 'as large as it may be' },
]

/** What a rule weighs when one is lost for another: what no office can take first, then where the head is, then the rest. */
const weights: Record<string, number> = {
  format: 8,
  bytes: 8,
  width: 8,
  height: 8,
  aspect: 8,
  upright: 8,
  faces: 8,
  inkAspect: 8,
  headHeight: 4,
  crownRoom: 4,
  eyeLine: 4,
  offCentre: 4,
  roll: 4,
  boxShare: 4,
  inkShare: 4,
  background: 2,
  eyeDistance: 2,
  cutOff: 2,
}
const weightOf = (code: string) => weights[code.split('.')[1] ?? ''] ?? 1
const heaviest = (codes: readonly string[]) => Math.max(0, ...codes.map(weightOf))
const sum = (codes: readonly string[]) => codes.reduce((all, code) => all + weightOf(code), 0)

/**
 * Brings a picture within the rules of the notice: turned upright, straightened by the eyes, cut round the head or the ink, the wall or
 * the paper evened within stated limits, brought to size, and compressed into the range of bytes. What cannot be mended so (blur,
 * darkness, closed eyes) stays as it is. The picture given is not changed.
 *
 * What was made is measured. Where a rule that held before fails now, less is done, and what gains most is taken; a rule is given up only
 * for one that weighs more, and that is told.
 *
 * @param turn a turn by hand, clockwise, which counts instead of what the face shows, whatever becomes of the rules.
 */
export async function makeItFit(
  kind: ImageKind,
  picture: Picture,
  rule: ImageRule,
  workshop: Workshop,
  turn?: Turn,
): Promise<Made | Unmade> {
  const before = measureImage(kind, picture, rule).findings
  const whole = await workshop.whole()
  let best: { made: Made, worth: number } | null = null
  let found: Unmade = 'too heavy'
  const tried = new Set<string>()
  for (const way of ways) {
    const made = await makeOne(kind, picture, rule, { whole, encode: workshop.encode }, way, turn)
    if (!made || tried.has(JSON.stringify(made.edits))) continue
    tried.add(JSON.stringify(made.edits))
    found = 'no better'
    const looked = await workshop.look(made.bytes)
    const { lost, gained } = compared(before, measureImage(kind, looked, rule).findings)
    const told: Made = {
      ...made,
      picture: looked,
      edits: lost.length === 0 ? made.edits : [...made.edits, { kind: 'given up', rules: lost.length }],
    }
    if (turn !== undefined || (way === full && lost.length === 0)) return told
    if (lost.length > 0 && heaviest(gained) <= heaviest(lost)) continue
    const worth = sum(gained) - sum(lost)
    if (best === null || worth > best.worth) best = { made: told, worth }
  }
  return best?.made ?? found
}

/** Codes of the rules that held before and fail now, and the other way round. What could not be measured before was not held. */
function compared(before: readonly Finding[], after: readonly Finding[]): { lost: string[], gained: string[] } {
  const was = new Map(before.map(({ code, verdict }) => [code, verdict]))
  return {
    lost: after.flatMap(({ code, verdict }) => verdict === 'fail' && was.get(code) === 'pass' ? [code] : []),
    gained: after.flatMap(({ code, verdict }) => verdict !== 'fail' && was.get(code) === 'fail' ? [code] : []),
  }
}

/** One way of bringing a picture within the rules; null when even the strongest compression is too large for the notice. */
async function makeOne(
  kind: ImageKind,
  picture: Picture,
  rule: ImageRule,
  { whole, encode }: { whole: RgbPixels } & Pick<Workshop, 'encode'>,
  way: Way,
  turn?: Turn,
): Promise<Written | null> {
  const { seen } = picture
  const byHand = turn ?? (kind === 'signature' ? layingTurn(picture.pixels) : seen?.turn) ?? 0
  const lying = byHand === 90 || byHand === 270
  const shown: Size = lying ? { width: picture.pixels.height, height: picture.pixels.width } : picture.pixels
  // Of two faces no picture is cut round one.
  const face = kind === 'photograph' && seen?.turn === byHand ? theFace(seen) : undefined
  const level = face && !way.straighten ? { ...face, roll: 0 } : face
  const fit = way.frame === 'middle' || (kind === 'photograph' && !level)
    ? fitMiddle(shown, rule)
    : level
    ? fitPortrait(shown, byHand, level, rule, openEdges(turned(picture.pixels, byHand), level))
    : aroundInk(picture, rule, byHand)
  const frame = { ...fit.frame, turn: byHand }
  const zoom = (lying ? whole.height : whole.width) / shown.width
  const cutFrom = enlarged(frame, zoom)
  const edits = editsOf(frame, shown)
  const make = (size: Size) => {
    const pixels = cut(whole, cutFrom, size)
    return way.even ? finish(kind, pixels, picture, level && onto(level, frame, size), rule) : { pixels, edits: [] }
  }
  let size = way.size === 'handy' ? fit.size : sizeFor(rule, cutFrom, 1)
  for (;;) {
    const { pixels, edits: finishing } = make(size)
    const file = await withinBytes(quality => encode(pixels, quality), rule.bytes)
    if (!file) return null
    const larger = grown(size, file.bytes.length, rule)
    if (!larger) {
      return {
        bytes: file.bytes,
        size,
        edits: [...edits, { kind: 'scaled', ...size }, ...finishing, {
          kind: 'compressed',
          quality: file.quality,
          bytes: file.bytes.length,
        }],
      }
    }
    size = larger
  }
}

/** A file may also be too small: then the picture is made larger, as far as the notice allows. */
function grown(size: Size, bytes: number, rule: ImageRule): Size | null {
  const least = rule.bytes.min ?? 0
  if (bytes >= least) return null
  const times = Math.min(
    Math.max(1.1, Math.sqrt(least / bytes) * 1.05),
    (rule.width.max ?? Infinity) / size.width,
    (rule.height.max ?? Infinity) / size.height,
  )
  const larger = { width: Math.floor(size.width * times), height: Math.floor(size.height * times) }
  return larger.width > size.width ? larger : null
}

function aroundInk(picture: Picture, rule: ImageRule, turn: Turn): Fit {
  const shown = turned(picture.pixels, turn)
  const { box } = measureSignature(shown)
  return box ? fitAround(box, rule) : fitMiddle(shown, rule)
}

function editsOf(frame: Frame, shown: Size): Edit[] {
  const edits: Edit[] = []
  if (frame.turn !== 0) edits.push({ kind: 'turned', degrees: frame.turn })
  if (frame.angle !== 0) edits.push({ kind: 'straightened', degrees: Number(frame.angle.toFixed(1)) })
  const over = beyond(shown, frame)
  const kept = (1 - over / 100) * 100 * frame.width * frame.height / (shown.width * shown.height)
  if (kept < 99) edits.push({ kind: 'cropped', kept: Number(kept.toFixed(0)) })
  if (over >= 0.5) edits.push({ kind: 'wall continued', share: Number(over.toFixed(0)) })
  return edits
}

/** Edges along which nearly every pixel is of the wall's colour; at the top only while the crown lies on the picture. */
function openEdges(pixels: RgbPixels, face: Face): OpenEdges {
  const { width, height } = pixels
  const wall = readBackground(pixels, face).colour
  const open = (left: number, top: number, across: number, down: number) =>
    shareUnlike(pixels, { left, top, width: across, height: down }, wall) < 0.03
  return { left: open(0, 0, 2, height), right: open(width - 2, 0, 2, height), top: face.crown.y > height * 0.03 && open(0, 0, width, 2) }
}

/** Evens wall or paper where the rules ask for it. */
function finish(
  kind: ImageKind,
  pixels: RgbPixels,
  before: Picture,
  face: Face | undefined,
  rule: ImageRule,
): { pixels: RgbPixels, edits: Edit[] } {
  if (kind === 'signature') {
    // Only what looks like pen on paper is whitened: a portrait or a block would be made to look like it.
    const ink = measureSignature(before.pixels)
    const over = (value: number, max: number | undefined) => max !== undefined && value > max
    if (
      over(ink.inkShare, rule.inkShare?.max) || over(ink.strokeWidth, rule.strokeWidth?.max) || over(ink.saturation, rule.saturation?.max)
      || over(ink.pieces, rule.pieces?.max)
    ) return { pixels, edits: [] }
    const { pixels: made, most } = whitenPaper(pixels)
    return most > 6 ? { pixels: made, edits: [{ kind: 'paper whitened', most: Math.round(most) }] } : { pixels, edits: [] }
  }
  if (kind !== 'photograph' || !face || !wallNeeds(pixels, face, rule, 0.8)) return { pixels, edits: [] }
  const { pixels: made, share, most } = evenWall(pixels, face, rule)
  // A wall that stays wrong is left as it was taken.
  return share < 1 || wallNeeds(made, face, rule, 1)
    ? { pixels, edits: [] }
    : { pixels: made, edits: [{ kind: 'wall evened', share: Math.round(share), most: Math.round(most) }] }
}

/** Whether the wall is over a share of what the rules allow it. */
function wallNeeds(pixels: RgbPixels, face: Face, rule: ImageRule, share: number): boolean {
  const wall = readBackground(pixels, face)
  const over = (value: number, max: number | undefined) => max !== undefined && value > max * share
  return over(wall.spread, rule.backgroundEvenness?.max) || over(wall.shadow, rule.backgroundShadow?.max)
    || (rule.backgrounds.length > 0 && over(nearestAllowed(wall.colour, rule.backgrounds).distance, rule.backgroundDistance?.max))
}

/** The face as it lies on the picture that was cut, its eyes level. */
function onto(face: Face, frame: Frame, size: Size): Face {
  const { onto: at, times } = throughFrame(frame, size)
  return { ...faceAt(face, at, times), roll: 0 }
}
