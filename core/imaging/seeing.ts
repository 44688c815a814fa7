import { cut, throughFrame, turned, type Frame } from './cut'
import { faceAt, faceOf, sureFaces, theFace, type Face, type FaceDetector, type FacesSeen } from './face'
import type { RgbPixels } from './pixels'
import { turnByEdges, type Turn } from './upright'

/** From this score on a face does not lie on its side; it may still lie on its head. */
const sureScore = 0.9
/** With shoulders at the lower edge so much is enough for all turns. */
const agreedScore = 0.7
/** Below this a thing is no face. */
const leastScore = 0.3
/** Another turn must be surer by so much than the picture as it lies; within twice as much there is doubt. */
const lead = 0.05

interface Look {
  turn: Turn
  faces: Face[]
  sure: number
}

/**
 * Finds the faces of a picture, and which way up it is. Of the one face that a portrait is measured by, the lean of the head is measured
 * again on the picture turned level.
 */
export async function seeFaces(pixels: RgbPixels, detect: FaceDetector): Promise<FacesSeen> {
  const seen = await seeUpright(pixels, detect)
  const face = theFace(seen)
  if (!face) return seen
  const upright = turned(pixels, seen.turn)
  const others = await seeBeside(upright, face, detect)
  if (others.length > 0 || Math.abs(face.roll) < nearlyLevel) return { ...seen, faces: [...seen.faces, ...others] }
  const measured = await levelled(upright, face, detect)
  const turn = turnLeast(seen.turn, measured)
  if (turn === seen.turn) return { ...seen, faces: seen.faces.map(one => one === face ? measured : one) }
  // A leaning head was taken for one that lies on its side, and leans the less the other way round.
  const again = await lookAt(pixels, turn, detect)
  const same = theFace({ ...again, doubt: false })
  return same ? { turn, faces: [await levelled(turned(pixels, turn), same, detect)], doubt: seen.doubt } : { ...seen, doubt: true }
}

/** The quarter turn after which a head leans least. */
const turnLeast = (turn: Turn, { roll, rollSure }: Face): Turn =>
  rollSure ? quarters[(quarters.indexOf(turn) + Math.round(-roll / 90) + 8) % 4] ?? turn : turn
const quarters: readonly Turn[] = [0, 90, 180, 270]

/** Room beside a face for another, in widths of its box: a portrait of one person has less. */
const roomForAnother = 0.8

/** Faces to the left and right of the one that was seen. A detector that sees a whole picture at once may miss the second of two. */
async function seeBeside(pixels: RgbPixels, { box }: Face, detect: FaceDetector): Promise<Face[]> {
  const found: Face[] = []
  for (const [from, to] of [[0, box.left], [box.left + box.width, pixels.width]] as const) {
    const side = Math.round(to - from)
    if (side < box.width * roomForAnother) continue
    const height = Math.min(pixels.height, Math.round(side * 1.3))
    const frame: Frame = {
      turn: 0,
      centre: { x: (from + to) / 2, y: Math.min(pixels.height - height / 2, Math.max(height / 2, box.top + box.height / 2)) },
      width: side,
      height,
      angle: 0,
    }
    const size = { width: side, height }
    const { back } = throughFrame(frame, size)
    // On a part that may show nothing but a room, what looks a little like a face is no reason for a doubt.
    found.push(...sureFaces(await lookAt(cut(pixels, frame, size), 0, detect)).map(face => faceAt(face, back, 1)))
  }
  return found
}

/**
 * A picture that lies on its side or on its head gives no face or a doubtful one, so it is turned and asked again; the turn with the
 * surest face wins.
 */
async function seeUpright(pixels: RgbPixels, detect: FaceDetector): Promise<FacesSeen> {
  const edges = turnByEdges(pixels)
  const looks: Look[] = []
  for (const turn of [0, 180, 90, 270] as const) {
    const look = await lookAt(pixels, turn, detect)
    looks.push(look)
    const asItLies = looks[0]?.sure ?? 0
    if (turn === 0 && edges === 0 && asItLies >= agreedScore) break
    if (turn === 180 && asItLies >= sureScore) break
  }
  const ranked = looks.map(look => ({ ...look, sure: look.turn === 0 && look.sure > 0 ? look.sure + lead : look.sure })).sort((a, b) =>
    b.sure - a.sure
  )
  const [best, second] = ranked
  return {
    turn: best?.turn ?? 0,
    faces: best?.faces ?? [],
    doubt: best !== undefined && second !== undefined && second.sure > 0 && best.sure - second.sure < 2 * lead,
  }
}

async function lookAt(pixels: RgbPixels, turn: Turn, detect: FaceDetector): Promise<Look> {
  const faces = (await detect(turned(pixels, turn))).map(faceOf).filter(face => face !== null).filter(face => face.score >= leastScore)
  return {
    turn,
    faces: faces.sort((a, b) => b.box.width * b.box.height - a.box.width * a.box.height),
    sure: Math.max(0, ...faces.map(face => face.score)),
  }
}

/** Up to this lean in degrees a first look is right to a degree. */
const nearlyLevel = 2
/** A level picture gives a lean within this of nothing; where three looks do not get there, they disagree. */
const agreed = 1.5

/**
 * The face measured on its head turned level: a mesh lies on a leaning head as if it leant less, so the picture is turned by the lean
 * that was seen, and asked again for what is left.
 */
async function levelled(pixels: RgbPixels, face: Face, detect: FaceDetector): Promise<Face> {
  let found = face
  for (let looks = 0; looks < 3; looks += 1) {
    const { width, height } = pixels
    const { left, top, width: across, height: down } = found.box
    const frame: Frame = { turn: 0, centre: { x: left + across / 2, y: top + down / 2 }, width, height, angle: found.roll }
    const { faces } = await lookAt(cut(pixels, frame, pixels), 0, detect)
    const off = ({ box }: Face) => Math.hypot(box.left + (box.width - width) / 2, box.top + (box.height - height) / 2)
    const [nearest] = [...faces].sort((a, b) => off(a) - off(b))
    if (!nearest) break
    const { back, times } = throughFrame(frame, pixels)
    found = { ...faceAt(nearest, back, 1 / times), score: face.score, roll: found.roll + nearest.roll }
    if (Math.abs(nearest.roll) <= agreed) return found
  }
  return { ...found, rollSure: false }
}
