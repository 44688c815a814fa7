import { middle, type Box, type Point, type RgbPixels } from './pixels'
import type { Turn } from './upright'

/**
 * One face as a detector saw it. Places are pixels of the picture that was given, turned upright by `turn`. The mesh has
 * the 468 points of the published face mesh topology (Kartynnik et al., "Real-time Facial Surface Geometry from Monocular
 * Video on Mobile GPUs", 2019); the numbers of single points below are of that topology, from memory.
 */
export interface DetectedFace {
  score: number
  box: Box
  mesh: readonly Point[]
  yaw: number
  pitch: number
}

/** Finds faces in pixels as they lie; throws when the detector itself fails. Passed in: models and packages are not the core's. */
export type FaceDetector = (pixels: RgbPixels) => Promise<DetectedFace[]>

export interface Eye {
  centre: Point
  /** Opening of the lids over the eye's width. */
  opening: number
  width: number
}

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
  /** False where looks at a head turned level do not agree on how far it leans. */
  rollSure: boolean
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
export const sureFaces = ({ faces }: Pick<FacesSeen, 'faces'>) => faces.filter(face => face.score >= certain)

/** The face that a portrait is measured by: the only sure one, or the only one. Of several sure ones nobody knows whose it is. */
export function theFace(seen: FacesSeen): Face | undefined {
  const sure = sureFaces(seen)
  return sure.length === 1 ? sure[0] : sure.length === 0 && seen.faces.length === 1 ? seen.faces[0] : undefined
}

const meshPoint = {
  noseTip: 1,
  chin: 152,
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
  return {
    score: detected.score,
    box: detected.box,
    eyes: [left, right],
    chin,
    crown,
    nose,
    roll,
    rollSure: true,
    yaw: detected.yaw,
    pitch: detected.pitch,
  }
}

/** The face with its places somewhere else, such as on a picture that was cut out of the first; sizes there are `times` as large. */
export function faceAt(face: Face, at: (place: Point) => Point, times: number): Face {
  const centre = at({ x: face.box.left + face.box.width / 2, y: face.box.top + face.box.height / 2 })
  const [width, height] = [face.box.width * times, face.box.height * times]
  const eye = (one: Eye): Eye => ({ ...one, centre: at(one.centre), width: one.width * times })
  return {
    ...face,
    box: { left: centre.x - width / 2, top: centre.y - height / 2, width, height },
    eyes: [eye(face.eyes[0]), eye(face.eyes[1])],
    chin: at(face.chin),
    crown: at(face.crown),
    nose: at(face.nose),
  }
}
