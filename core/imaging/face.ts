import type { Box, RgbPixels } from './pixels'
import { turnByEdges, type Turn } from './upright'

/** A place in a picture, in pixels from the top left. */
export interface Point { x: number, y: number }

/**
 * One face as a detector saw it. Places are pixels of the picture that was given, turned upright by `turn`. The mesh has
 * the 468 points of the published face mesh topology (Kartynnik et al., "Real-time Facial Surface Geometry from Monocular
 * Video on Mobile GPUs", 2019); the numbers of single points below are of that topology, from memory.
 */
export interface DetectedFace { score: number, box: Box, mesh: readonly Point[], yaw: number, pitch: number }

/** Finds faces in pixels as they lie; throws when the detector itself fails. Passed in: models and packages are not the core's. */
export type FaceDetector = (pixels: RgbPixels) => Promise<DetectedFace[]>

export interface Eye { centre: Point, /** Opening of the lids over the eye's width. */ opening: number, width: number }

/** A face with what is measured on it. Angles in degrees; roll is positive when the head leans to the viewer's right. */
export interface Face {
  score: number
  /** From forehead to chin, as the detector draws it. */
  box: Box
  eyes: [Eye, Eye]
  chin: Point
  /** Where the crown is thought to be: the eyes lie half-way between crown and chin (common practice, no source). */
  crown: Point
  nose: Point
  roll: number
  yaw: number
  pitch: number
}

/** Faces of a picture, and the clockwise turn in degrees that brings it upright: 0, 90, 180 or 270. */
export interface FacesSeen {
  turn: Turn
  faces: Face[]
  /** Another turn shows a face that is nearly as sure: which way up it is, is then no clear finding. */
  doubt: boolean
}

/** From this score on a thing is a face; a lower one is left to a person. */
const certain = 0.5

/** How many faces the detector is sure of. */
export const sureFaces = ({ faces }: FacesSeen) => faces.filter(face => face.score >= certain)

/** The face that a portrait is measured by: the only sure one, or the only one. Of several sure ones nobody knows whose it is. */
export function theFace(seen: FacesSeen): Face | undefined {
  const sure = sureFaces(seen)
  return sure.length === 1 ? sure[0] : sure.length === 0 && seen.faces.length === 1 ? seen.faces[0] : undefined
}

const meshPoint = {
  noseTip: 1, chin: 152,
  // Outer corner, inner corner, upper lid, lower lid; first the eye on the left of the picture.
  eyes: [[33, 133, 159, 145], [263, 362, 386, 374]],
} as const

/** What is measured on one detected face; null when its mesh is incomplete. */
export function faceOf(detected: DetectedFace): Face | null {
  const at = (index: number) => detected.mesh[index]
  const eyes = meshPoint.eyes.map(([outer, inner, upper, lower]) => {
    const [a, b, c, d] = [at(outer), at(inner), at(upper), at(lower)]
    if (!a || !b || !c || !d) return null
    const width = Math.hypot(a.x - b.x, a.y - b.y)
    return { centre: middle(a, b), width, opening: width === 0 ? 0 : Math.hypot(c.x - d.x, c.y - d.y) / width }
  })
  const [left, right] = eyes
  const [chin, nose] = [at(meshPoint.chin), at(meshPoint.noseTip)]
  if (!left || !right || !chin || !nose) return null
  const between = middle(left.centre, right.centre)
  const crown = { x: 2 * between.x - chin.x, y: 2 * between.y - chin.y }
  const roll = Math.atan2(right.centre.y - left.centre.y, right.centre.x - left.centre.x) * 180 / Math.PI
  return { score: detected.score, box: detected.box, eyes: [left, right], chin, crown, nose, roll, yaw: detected.yaw, pitch: detected.pitch }
}

export const middle = (a: Point, b: Point): Point => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 })

/** A score at which a first look is enough; a lower one may be a face that lies on its side or on its head. */
const sureScore = 0.8
/** With shoulders at the lower edge, too, so much is enough. */
const agreedScore = 0.7
/** Below this a thing is no face. */
const leastScore = 0.3
/** Another turn must be surer by so much than the picture as it lies; within twice as much there is doubt. */
const lead = 0.05

interface Look { turn: Turn, faces: Face[], sure: number }

/**
 * Finds the faces of a picture. A picture that lies on its side or on its head gives no face or a doubtful one, so it is turned and
 * asked again; the turn with the surest face wins.
 */
export async function seeFaces(pixels: RgbPixels, detect: FaceDetector): Promise<FacesSeen> {
  const edges = turnByEdges(pixels)
  const looks: Look[] = []
  for (const turn of [0, 90, 270, 180] as const) {
    const look = await lookAt(pixels, turn, detect)
    looks.push(look)
    if (turn === 0 && look.sure >= (edges === 0 ? agreedScore : sureScore)) break
  }
  const ranked = looks.map(look => ({ ...look, sure: look.turn === 0 && look.sure > 0 ? look.sure + lead : look.sure })).sort((a, b) => b.sure - a.sure)
  const [best, second] = ranked
  return { turn: best?.turn ?? 0, faces: best?.faces ?? [], doubt: best !== undefined && second !== undefined && second.sure > 0 && best.sure - second.sure < 2 * lead }
}

async function lookAt(pixels: RgbPixels, turn: Turn, detect: FaceDetector): Promise<Look> {
  const faces = (await detect(turned(pixels, turn))).map(faceOf).filter(face => face !== null).filter(face => face.score >= leastScore)
  return { turn, faces: faces.sort((a, b) => b.box.width * b.box.height - a.box.width * a.box.height), sure: Math.max(0, ...faces.map(face => face.score)) }
}

/** The picture turned clockwise. */
export function turned(pixels: RgbPixels, turn: Turn): RgbPixels {
  if (turn === 0) return pixels
  const { width, height, data } = pixels
  const [w, h] = turn === 180 ? [width, height] : [height, width]
  const made = new Uint8Array(data.length)
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const [tx, ty] = turn === 90 ? [height - 1 - y, x] : turn === 180 ? [width - 1 - x, height - 1 - y] : [y, width - 1 - x]
      const [from, to] = [(y * width + x) * 3, (ty * w + tx) * 3]
      made[to] = data[from] ?? 0
      made[to + 1] = data[from + 1] ?? 0
      made[to + 2] = data[from + 2] ?? 0
    }
  }
  return { width: w, height: h, data: made }
}
