import { verdictWithin, type Bound, type Finding, type Unit, type Verdict } from '../finding/finding'
import type { ImageKind, ImageRule } from '../notice/schema'
import { deltaE2000, labOf } from './colour'
import { laplacianVariance, lumaOf, saturationOf, statistics, type Box, type RgbPixels } from './pixels'
import { measureSignature } from './signature'

/** Facts of the container, read from the bytes and never from a name or a declared type. */
export interface ImageFacts {
  format: 'jpeg' | 'png'
  bytes: number
  /** Size in pixels after the orientation flag has been applied. */
  width: number
  height: number
  /** EXIF orientation 1 to 8; 1 when there is none. */
  orientation: number
}

/** Longest side, in pixels, of the copy that is measured. Bounds of sharpness in a notice refer to this size. */
export const measuredSide = 512

/** All findings on one image: container, shape, then what its pixels show. Order is fixed. */
export function measureImage(kind: ImageKind, facts: ImageFacts, pixels: RgbPixels, rule: ImageRule): Finding[] {
  const container = containerFindings(kind, facts, rule)
  return [...container, ...(kind === 'photograph' ? photographFindings(pixels, rule) : signatureFindings(pixels, rule))]
}

function finding(kind: ImageKind, code: string, value: number, unit: Unit, bound: Bound, extra: {
  verdict?: Verdict, margin?: number, parameters?: Finding['parameters']
} = {}): Finding {
  return {
    code: `${kind}.${code}`, about: kind, verdict: extra.verdict ?? verdictWithin(value, bound, extra.margin), value, unit, bound,
    parameters: extra.parameters ?? {},
  }
}

function containerFindings(kind: ImageKind, facts: ImageFacts, rule: ImageRule): Finding[] {
  return [
    {
      code: `${kind}.format`, about: kind, verdict: rule.formats.includes(facts.format) ? 'pass' : 'fail', value: null, unit: 'none',
      bound: null, parameters: { format: facts.format.toUpperCase(), allowed: rule.formats.map(f => f.toUpperCase()).join(' or ') },
    },
    finding(kind, 'bytes', facts.bytes, 'bytes', rule.bytes),
    finding(kind, 'width', facts.width, 'px', rule.width),
    finding(kind, 'height', facts.height, 'px', rule.height),
    finding(kind, 'aspect', round(facts.width / facts.height, 3), 'ratio', rule.aspect, {
      parameters: { width: facts.width, height: facts.height },
    }),
  ]
}

function photographFindings(pixels: RgbPixels, rule: ImageRule): Finding[] {
  const luma = lumaOf(pixels)
  const centre = part(pixels, 0.25, 0.2, 0.5, 0.55)
  const light = statistics(luma, pixels.width, centre)
  const findings: Finding[] = [uprightFinding(pixels)]
  // Laplacian variance falls with darkness, so it is divided by the mean squared; 10,000 makes it a handy number.
  const sharpness = 10_000 * laplacianVariance(luma, pixels.width, pixels.height, centre) / Math.max(1, light.mean ** 2)
  if (rule.sharpness) findings.push(finding('photograph', 'sharpness', round(sharpness, 1), 'sharpness', rule.sharpness, { margin: 1 }))
  // Exposure is judged by the brightest tenth and by what is burnt out, never by the face's own lightness: that would
  // judge skin.
  if (rule.exposure) findings.push(finding('photograph', 'exposure', round(percentile(luma, 0.9), 0), 'level', rule.exposure))
  if (rule.burntOut) findings.push(finding('photograph', 'burntOut', round(shareAbove(luma, pixels.width, centre, 250), 1), 'percent', rule.burntOut))
  if (rule.contrast) findings.push(finding('photograph', 'contrast', round(Math.sqrt(light.variance), 0), 'level', rule.contrast))
  if (rule.backgroundEvenness) {
    findings.push(finding('photograph', 'backgroundEvenness', round(backgroundSpread(pixels), 1), 'level', rule.backgroundEvenness, { margin: 1 }))
  }
  if (rule.backgroundDistance && rule.backgrounds.length > 0) findings.push(backgroundFinding(pixels, rule.backgrounds, rule.backgroundDistance))
  if (rule.sideLight) findings.push(finding('photograph', 'sideLight', round(sideLight(luma, pixels), 0), 'percent', rule.sideLight, { margin: 3 }))
  if (rule.saturation) findings.push(finding('photograph', 'saturation', round(saturationOf(pixels), 1), 'level', rule.saturation, { margin: 1 }))
  return findings
}

/** How far the background, the middle colour beside the head, lies from the nearest colour that the notice allows. */
function backgroundFinding(pixels: RgbPixels, allowed: ImageRule['backgrounds'], bound: Bound): Finding {
  const colours = besideTheHead(pixels)
  const middle = ([0, 1, 2] as const).map((c) => {
    const sorted = colours.map(colour => colour[c]).sort((a, b) => a - b)
    return sorted[Math.floor(sorted.length / 2)] ?? 0
  }) as Colour
  const own = labOf(...middle)
  const distances = allowed.map(({ title, colour }) => ({ title, distance: deltaE2000(own, labOf(...channelsOf(colour))) })).sort((a, b) => a.distance - b.distance)
  const [nearest] = distances
  return finding('photograph', 'background', round(nearest?.distance ?? 100, 1), 'deltaE', bound, {
    margin: 1, parameters: { colour: `#${middle.map(v => v.toString(16).padStart(2, '0')).join('')}`, nearest: nearest?.title ?? '', allowed: allowed.map(a => a.title).join(', ') },
  })
}

function channelsOf(hex: string): Colour {
  return [1, 3, 5].map(at => Number.parseInt(hex.slice(at, at + 2), 16)) as Colour
}

/** Percent by which the darker half of the middle of the picture lies under the lighter one. */
function sideLight(luma: Float32Array, pixels: RgbPixels): number {
  const [left, right] = [part(pixels, 0.3, 0.25, 0.2, 0.4), part(pixels, 0.5, 0.25, 0.2, 0.4)].map(box => statistics(luma, pixels.width, box).mean)
  return 100 * Math.abs((left ?? 0) - (right ?? 0)) / Math.max(1, left ?? 0, right ?? 0)
}

/** Findings on a signature: each measure for which the notice sets a bound. */
function signatureFindings(pixels: RgbPixels, rule: ImageRule): Finding[] {
  const measures = measureSignature(pixels)
  const { blank } = measures
  const findings: Finding[] = []
  const add = (code: 'contrast' | 'inkShare' | 'boxShare' | 'pieces' | 'strokeWidth' | 'cutOff' | 'paper' | 'shade' | 'saturation', unit: Unit, places: number, margin?: number) => {
    const bound = rule[code]
    // What is not there has no shape: a blank paper fails for its ink alone.
    if (bound && (!blank || ['contrast', 'inkShare', 'paper', 'shade'].includes(code))) findings.push(finding('signature', code, round(measures[code], places), unit, bound, { margin, parameters: { blank } }))
  }
  add('contrast', 'level', 0)
  add('inkShare', 'percent', 2, 0.1)
  add('boxShare', 'percent', 1, 1)
  add('pieces', 'count', 0)
  add('strokeWidth', 'px', 1, 0.3)
  add('cutOff', 'percent', 1)
  add('paper', 'level', 0)
  add('shade', 'percent', 0)
  add('saturation', 'level', 1, 1)
  return findings
}

/**
 * Upright orientation from the pixels: in a portrait the shoulders meet the lower edge, so of the four edges the lower
 * one holds most that is not background. The background is the commonest colour of the two edges' ends that agree.
 * `unsure` when no edge stands out: then only the eye can tell.
 */
function uprightFinding(pixels: RgbPixels): Finding {
  const background = commonEdgeColour(pixels)
  const depth = Math.max(1, Math.round(Math.min(pixels.width, pixels.height) * 0.03))
  const { width, height } = pixels
  const edges = [
    { turn: 0, box: { left: 0, top: height - depth, width, height: depth } },
    { turn: 90, box: { left: width - depth, top: 0, width: depth, height } },
    { turn: 180, box: { left: 0, top: 0, width, height: depth } },
    { turn: 270, box: { left: 0, top: 0, width: depth, height } },
  ].map(edge => ({ turn: edge.turn, share: shareUnlike(pixels, edge.box, background) })).sort((a, b) => b.share - a.share)
  const [first, second] = edges
  const clear = first !== undefined && second !== undefined && first.share >= 0.3 && first.share - second.share >= 0.15
  const verdict: Verdict = !clear ? 'unsure' : first.turn === 0 ? 'pass' : 'fail'
  return finding('photograph', 'upright', clear ? first.turn : 0, 'degree', { min: 0, max: 0 }, { verdict })
}

type Colour = [number, number, number]
const colourDistance = (a: Colour, b: Colour) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])

function colourAt(pixels: RgbPixels, x: number, y: number): Colour {
  const p = (y * pixels.width + x) * 3
  return [pixels.data[p] ?? 0, pixels.data[p + 1] ?? 0, pixels.data[p + 2] ?? 0]
}

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
  return [best.sum[0] / best.count, best.sum[1] / best.count, best.sum[2] / best.count]
}

function shareUnlike(pixels: RgbPixels, box: Box, colour: Colour): number {
  let unlike = 0
  for (let y = box.top; y < box.top + box.height; y += 1) {
    for (let x = box.left; x < box.left + box.width; x += 1) {
      if (colourDistance(colourAt(pixels, x, y), colour) > 60) unlike += 1
    }
  }
  return unlike / Math.max(1, box.width * box.height)
}

/** Pixels beside the head: every other one of the upper corners. */
function besideTheHead(pixels: RgbPixels): Colour[] {
  return [part(pixels, 0, 0, 0.16, 0.3), part(pixels, 0.84, 0, 0.16, 0.3)].flatMap((box) => {
    const found: Colour[] = []
    for (let y = box.top; y < box.top + box.height; y += 2) {
      for (let x = box.left; x < box.left + box.width; x += 2) found.push(colourAt(pixels, x, y))
    }
    return found
  })
}

/** Mean distance, in levels, of the pixels beside the head from their own mean colour. */
function backgroundSpread(pixels: RgbPixels): number {
  const colours = besideTheHead(pixels)
  const n = Math.max(1, colours.length)
  const mean: Colour = [0, 1, 2].map(c => colours.reduce((sum, colour) => sum + (colour[c] ?? 0), 0) / n) as Colour
  return colours.reduce((sum, colour) => sum + colourDistance(colour, mean), 0) / n
}

function part(pixels: RgbPixels, left: number, top: number, width: number, height: number): Box {
  return {
    left: Math.round(left * pixels.width), top: Math.round(top * pixels.height),
    width: Math.round(width * pixels.width), height: Math.round(height * pixels.height),
  }
}

/** The level that a share of all pixels does not pass. */
function percentile(luma: Float32Array, share: number): number {
  const sorted = Float32Array.from(luma).sort()
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0
}

/** Percent of the pixels of a box that lie above a level. */
function shareAbove(luma: Float32Array, width: number, box: Box, level: number): number {
  let above = 0
  for (let y = box.top; y < box.top + box.height; y += 1) {
    for (let x = box.left; x < box.left + box.width; x += 1) if ((luma[y * width + x] ?? 0) > level) above += 1
  }
  return 100 * above / Math.max(1, box.width * box.height)
}

function round(value: number, places: number): number {
  return Number(value.toFixed(places))
}
