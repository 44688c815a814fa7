import type { Finding, Verdict } from '../finding/finding'
import type { ImageRule } from '../notice/file-rules'
import { hexOf, nearestAllowed, readBackground } from './background'
import { barShare, blockiness, detailShare } from './detail'
import { turned } from './cut'
import { theFace, type Face, type FacesSeen } from './face'
import { faceFindings } from './face-findings'
import { areaMark, imageFinding, type Mark, type Measurement } from './image-finding'
import type { Picture } from './picture'
import { turnByEdges } from './upright'
import {
  clip,
  laplacianVariance,
  lumaOf,
  part,
  percentile,
  saturationOf,
  shareAbove,
  statistics,
  type Box,
  type Point,
  type RgbPixels,
} from './pixels'

/**
 * Findings on a portrait: each measure for which the notice sets a bound. With faces seen, light, sharpness and wall are
 * measured on the face and beside it; without, in the middle and in the upper corners, so that something can be said at once.
 */
export function measurePhotograph(picture: Picture, rule: ImageRule): Measurement {
  const { seen } = picture
  const pixels = turned(picture.pixels, seen?.turn ?? 0)
  const face = seen && theFace(seen)
  const faces: Measurement = seen && rule.face
    ? faceFindings(pixels, seen, rule.face, picture.facts.width / picture.pixels.width)
    : { findings: [], marks: [] }
  const [light, wall] = [lightFindings(pixels, rule, face), wallFindings(pixels, rule, face)]
  const findings = [uprightFinding(picture.pixels, seen), ...faces.findings, ...light.findings, ...wall.findings,
    ...qualityFindings(picture, rule)]
  return { findings, marks: [...faces.marks, ...light.marks, ...wall.marks].map(mark => onScreen(mark, pixels, seen?.turn ?? 0)) }
}

/** The part of the picture on which light and sharpness are judged. */
const faceOrMiddle = (pixels: RgbPixels, face?: Face): Box => face ? clip(face.box, pixels) : part(pixels, 0.25, 0.2, 0.5, 0.55)

function lightFindings(pixels: RgbPixels, rule: ImageRule, face?: Face): Measurement {
  const luma = lumaOf(pixels)
  const middle = faceOrMiddle(pixels, face)
  const light = statistics(luma, pixels.width, middle)
  const findings: Finding[] = []
  // Laplacian variance falls with darkness, so it is divided by the mean squared; 10,000 makes it a handy number.
  const sharpness = 10_000 * laplacianVariance(luma, pixels.width, pixels.height, middle) / Math.max(1, light.mean ** 2)
  if (rule.sharpness) findings.push(imageFinding('photograph', 'sharpness', sharpness, 1, 'sharpness', rule.sharpness, { margin: 1 }))
  // Exposure is judged by the brightest tenth and by what is burnt out, never by the face's own lightness: that would
  // judge skin.
  if (rule.exposure) findings.push(imageFinding('photograph', 'exposure', percentile(luma, 0.9), 0, 'level', rule.exposure))
  if (rule.burntOut) {
    findings.push(imageFinding('photograph', 'burntOut', shareAbove(luma, pixels.width, middle, 250), 1, 'percent', rule.burntOut))
  }
  if (rule.contrast) findings.push(imageFinding('photograph', 'contrast', Math.sqrt(light.variance), 0, 'level', rule.contrast))
  const halves = halvesOf(pixels, face)
  if (rule.sideLight) {
    findings.push(imageFinding('photograph', 'sideLight', sideLight(luma, pixels, halves), 0, 'percent', rule.sideLight, { margin: 3 }))
  }
  return {
    findings,
    marks: [...['sharpness', 'burntOut', 'contrast'].map(code => areaMark(code, middle)),
      ...halves.map(half => areaMark('sideLight', half))],
  }
}

function halvesOf(pixels: RgbPixels, face?: Face): [Box, Box] {
  if (!face) return [part(pixels, 0.3, 0.25, 0.2, 0.4), part(pixels, 0.5, 0.25, 0.2, 0.4)]
  const { left, top, width, height } = face.box
  // The edges of a face turn away from the camera and darken on both sides: the middle seven tenths count.
  return [clip({ left: left + width * 0.15, top, width: width * 0.35, height }, pixels),
    clip({ left: left + width * 0.5, top, width: width * 0.35, height }, pixels)]
}

/** Percent by which the darker half of the face lies under the lighter one. */
function sideLight(luma: Float32Array, pixels: RgbPixels, halves: [Box, Box]): number {
  const [left, right] = halves.map(box => statistics(luma, pixels.width, box).mean)
  return 100 * Math.abs((left ?? 0) - (right ?? 0)) / Math.max(1, left ?? 0, right ?? 0)
}

function wallFindings(pixels: RgbPixels, rule: ImageRule, face?: Face): Measurement {
  const wall = readBackground(pixels, face)
  const findings: Finding[] = []
  if (rule.backgroundEvenness) {
    findings.push(imageFinding('photograph', 'backgroundEvenness', wall.spread, 1, 'level', rule.backgroundEvenness, { margin: 1 }))
  }
  if (rule.backgroundShadow) {
    findings.push(imageFinding('photograph', 'backgroundShadow', wall.shadow, 0, 'percent', rule.backgroundShadow, { margin: 2 }))
  }
  if (rule.backgroundDistance && rule.backgrounds.length > 0) {
    const nearest = nearestAllowed(wall.colour, rule.backgrounds)
    findings.push(imageFinding('photograph', 'background', nearest.distance, 1, 'deltaE', rule.backgroundDistance, {
      margin: 1,
      parameters: { colour: hexOf(wall.colour), nearest: nearest.title, allowed: rule.backgrounds.map(a => a.title).join(', ') },
    }))
  }
  return {
    findings,
    marks: [...wall.boxes.flatMap(box => [areaMark('backgroundEvenness', box), areaMark('background', box)]),
      areaMark('backgroundShadow', wall.darkest)],
  }
}

function qualityFindings({ pixels, detail }: Picture, rule: ImageRule): Finding[] {
  const findings: Finding[] = []
  if (rule.saturation) {
    findings.push(imageFinding('photograph', 'saturation', saturationOf(pixels), 1, 'level', rule.saturation, { margin: 1 }))
  }
  if (rule.bars) findings.push(imageFinding('photograph', 'bars', barShare(pixels), 1, 'percent', rule.bars))
  if (rule.blockiness && detail) {
    findings.push(imageFinding('photograph', 'blockiness', blockiness(detail), 2, 'ratio', rule.blockiness, { margin: 0.05 }))
  }
  if (rule.detail && detail) findings.push(imageFinding('photograph', 'detail', detailShare(detail), 0, 'percent', rule.detail))
  return findings
}

/** A mark of the upright picture, as shares of the picture that is shown. */
function onScreen(mark: Mark, { width, height }: RgbPixels, turn: FacesSeen['turn']): Mark {
  const share = (value: number) => Number(Math.min(1.2, Math.max(-0.2, value)).toFixed(4))
  return {
    ...mark,
    points: mark.points.map(({ x, y }): Point => {
      const [u, v] = [x / width, y / height]
      const [a, b] = turn === 90 ? [v, 1 - u] : turn === 180 ? [1 - u, 1 - v] : turn === 270 ? [1 - v, u] : [u, v]
      return { x: share(a), y: share(b) }
    }),
  }
}

/**
 * Upright orientation: by the face, when one was seen without doubt; else by the edges. `unsure` when neither tells: then only the
 * eye can.
 */
function uprightFinding(pixels: RgbPixels, seen?: FacesSeen): Finding {
  const bound = { min: 0, max: 0 }
  if (seen && seen.faces.length > 0 && !seen.doubt) {
    return imageFinding('photograph', 'upright', seen.turn, 0, 'degree', bound, { parameters: { by: 'face' } })
  }
  const edges = turnByEdges(pixels)
  // Face and shoulders that point different ways are for a person to judge.
  const agreed = edges !== null && (!seen || seen.faces.length === 0 || seen.turn === edges)
  const verdict: Verdict = !agreed ? 'unsure' : edges === 0 ? 'pass' : 'fail'
  return imageFinding('photograph', 'upright', agreed ? edges : seen?.turn ?? 0, 0, 'degree', bound, {
    verdict,
    parameters: { by: 'edges' },
  })
}
