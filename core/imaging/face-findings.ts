import type { Finding } from '../finding/finding'
import type { FaceRule } from '../notice/file-rules'
import { cut } from './cut'
import { edgeSpread } from './edge-spread'
import { sureFaces, theFace, type Eye, type Face, type FacesSeen } from './face'
import { areaMark, imageFinding, type Mark, type Measurement } from './image-finding'
import { clip, lumaOf, middle, statistics, type Box, type Point, type RgbPixels } from './pixels'

/**
 * Findings on the faces of a picture. `pixels` are turned upright; `zoom` is how many pixels of the original one of them stands
 * for. Marks come in pixels of `pixels`.
 */
export function faceFindings(pixels: RgbPixels, seen: FacesSeen, rule: FaceRule, zoom: number): Measurement {
  const face = theFace(seen)
  const findings = [countFinding(seen)]
  const marks: Mark[] = seen.faces.map(one => areaMark('faces', one.box))
  if (!face) return { findings, marks }
  findings.push(...placeFindings(pixels, face, rule, zoom), ...poseFindings(face, rule), ...eyeFindings(pixels, face, rule))
  if (rule.blur) findings.push(imageFinding('photograph', 'blur', blurOf(pixels, face), 2, 'percent', rule.blur, { margin: 0.03 }))
  return { findings, marks: [...marks, ...faceMarks(pixels, face)] }
}

function countFinding(seen: FacesSeen): Finding {
  const { faces } = seen
  const sure = sureFaces(seen).length
  const verdict = sure > 1 ? 'fail' : faces.length === 0 ? 'fail' : sure === 1 && faces.length === 1 ? 'pass' : 'unsure'
  return imageFinding('photograph', 'faces', verdict === 'unsure' ? faces.length : Math.max(sure, Math.min(1, faces.length)), 0, 'count', {
    min: 1,
    max: 1,
  }, {
    verdict,
    parameters: { score: Math.round(100 * (faces[0]?.score ?? 0)), second: Math.round(100 * (faces[1]?.score ?? 0)) },
  })
}

const percentOf = (value: number, whole: number) => 100 * value / Math.max(1, whole)

function placeFindings({ width, height }: RgbPixels, face: Face, rule: FaceRule, zoom: number): Finding[] {
  const eyes = middle(face.eyes[0].centre, face.eyes[1].centre)
  const distance = Math.hypot(face.eyes[0].centre.x - face.eyes[1].centre.x, face.eyes[0].centre.y - face.eyes[1].centre.y) * zoom
  const head = Math.hypot(face.chin.x - face.crown.x, face.chin.y - face.crown.y)
  const found: Finding[] = []
  if (rule.headHeight) {
    found.push(imageFinding('photograph', 'headHeight', percentOf(head, height), 0, 'percent', rule.headHeight, { margin: 2 }))
  }
  if (rule.crownRoom) {
    found.push(imageFinding('photograph', 'crownRoom', percentOf(face.crown.y, height), 0, 'percent', rule.crownRoom, { margin: 2 }))
  }
  if (rule.eyeLine) found.push(imageFinding('photograph', 'eyeLine', percentOf(eyes.y, height), 0, 'percent', rule.eyeLine, { margin: 1 }))
  if (rule.offCentre) {
    found
      .push(imageFinding('photograph', 'offCentre', Math.abs(percentOf(eyes.x, width) - 50), 0, 'percent', rule.offCentre, { margin: 1 }))
  }
  if (rule.eyeDistance) found.push(imageFinding('photograph', 'eyeDistance', distance, 0, 'px', rule.eyeDistance))
  return found
}

function poseFindings(face: Face, rule: FaceRule): Finding[] {
  const found: Finding[] = []
  // Which way a head leans is told by the words; the bound is on how far.
  if (rule.roll) {
    found.push(imageFinding('photograph', 'roll', face.roll, 0, 'degree', rule.roll, {
      margin: 1,
      ...face.rollSure ? {} : { verdict: 'unsure' },
    }))
  }
  if (rule.yaw) found.push(imageFinding('photograph', 'yaw', face.yaw, 0, 'degree', rule.yaw, { margin: 4 }))
  if (rule.pitch) found.push(imageFinding('photograph', 'pitch', face.pitch, 0, 'degree', rule.pitch, { margin: 4 }))
  return found
}

function eyeFindings(pixels: RgbPixels, face: Face, rule: FaceRule): Finding[] {
  const found: Finding[] = []
  const light = Math.min(...face.eyes.map(eye => lightAround(pixels, face, eye)))
  const covered = rule.eyesUncovered !== undefined && light < (rule.eyesUncovered.min ?? 0)
  if (rule.eyesUncovered) found.push(imageFinding('photograph', 'eyesUncovered', light, 0, 'percent', rule.eyesUncovered, { margin: 5 }))
  // Behind dark glass there is nothing to measure on lids and pupils.
  if (covered) return found
  if (rule.eyesOpen) {
    found.push(imageFinding(
      'photograph',
      'eyesOpen',
      100 * Math.min(...face.eyes.map(eye => eye.opening)),
      0,
      'percent',
      rule.eyesOpen,
      { margin: 7 },
    ))
  }
  if (rule.redEyes) {
    found.push(imageFinding(
      'photograph',
      'redEyes',
      Math.max(...face.eyes.map(eye => redShare(pixels, eye))),
      0,
      'percent',
      rule.redEyes,
      { margin: 3 },
    ))
  }
  return found
}

/** Widest copy of a face on which its edges are looked at, in pixels: grain and the blocks of a JPEG are finer. */
const faceSide = 256
/** A face without any edge is blurred by its tenth and more. */
const mostBlur = 10

/** Blur of a face in percent of its width, so that a large picture of a face and a small one are judged alike; 10 at most. */
function blurOf(pixels: RgbPixels, { box }: Face): number {
  const { left, top, width, height } = clip(box, pixels)
  const across = Math.min(faceSide, width)
  const face = cut(pixels, { turn: 0, centre: { x: left + width / 2, y: top + height / 2 }, width, height, angle: 0 }, {
    width: across,
    height: Math.max(1, Math.round(across * height / Math.max(1, width))),
  })
  return Math.min(mostBlur, percentOf(edgeSpread(face), across))
}

const aroundEye = ({ centre, width }: Eye): Box => ({
  left: centre.x - width * 0.75,
  top: centre.y - width * 0.35,
  width: width * 1.5,
  height: width * 0.7,
})

/** Lightness round an eye in percent of the cheek below it: dark glass swallows what skin and the white of the eye give back. */
function lightAround(pixels: RgbPixels, face: Face, eye: Eye): number {
  const luma = lumaOf(pixels)
  const across = Math.max(4, eye.width)
  const around = clip(aroundEye({ ...eye, width: across }), pixels)
  const down = (face.chin.y - eye.centre.y) * 0.42
  const cheek = clip({
    left: eye.centre.x - across * 0.4,
    top: eye.centre.y + down - across * 0.25,
    width: across * 0.8,
    height: across * 0.5,
  }, pixels)
  return percentOf(statistics(luma, pixels.width, around).mean, statistics(luma, pixels.width, cheek).mean)
}

/** Percent of the middle of an eye that glows red, as a flash does it: red far above both other channels. */
function redShare(pixels: RgbPixels, eye: Eye): number {
  const radius = Math.max(2, eye.width * 0.22)
  let [red, all] = [0, 0]
  for (let y = Math.floor(eye.centre.y - radius); y <= eye.centre.y + radius; y += 1) {
    for (let x = Math.floor(eye.centre.x - radius); x <= eye.centre.x + radius; x += 1) {
      if (x < 0 || y < 0 || x >= pixels.width || y >= pixels.height || Math.hypot(x - eye.centre.x, y - eye.centre.y) > radius) continue
      const p = (y * pixels.width + x) * 3
      const [r, g, b] = [pixels.data[p] ?? 0, pixels.data[p + 1] ?? 0, pixels.data[p + 2] ?? 0]
      all += 1
      if (r > 90 && r > 2 * Math.max(g, b)) red += 1
    }
  }
  return percentOf(red, all)
}

function faceMarks({ width }: RgbPixels, face: Face): Mark[] {
  const eyes = middle(face.eyes[0].centre, face.eyes[1].centre)
  const line = (code: string, ...points: Point[]): Mark => ({ code: `photograph.${code}`, shape: 'line', points })
  return [
    areaMark('blur', face.box),
    line('headHeight', face.crown, face.chin),
    line('crownRoom', { x: face.crown.x, y: 0 }, face.crown),
    line('eyeLine', { x: 0, y: eyes.y }, { x: width, y: eyes.y }),
    line('offCentre', { x: width / 2, y: eyes.y }, eyes),
    line('roll', face.eyes[0].centre, face.eyes[1].centre),
    line('eyeDistance', face.eyes[0].centre, face.eyes[1].centre),
    line('yaw', eyes, face.nose),
    line('pitch', eyes, face.nose),
    ...face.eyes.flatMap(eye => ['eyesOpen', 'eyesUncovered', 'redEyes'].map(code => areaMark(code, aroundEye(eye)))),
  ]
}
