import type { Finding } from '../finding/finding'
import type { ImageKind, ImageRule } from '../notice/schema'
import { imageFinding, type Measurement } from './image-finding'
import { measurePhotograph } from './photograph'
import type { ImageFacts, Picture } from './picture'
import { measureSignature, type SignatureMeasures } from './signature'
import { measureThumb } from './thumb'

/** All findings on one image: container, shape, then what its pixels show. Order is fixed. */
export function measureImage(kind: ImageKind, picture: Picture, rule: ImageRule): Measurement {
  const container = containerFindings(kind, picture.facts, rule)
  const shown: Measurement = kind === 'photograph' ? measurePhotograph(picture, rule)
    : { findings: kind === 'signature' ? signatureFindings(measureSignature(picture.pixels), rule) : measureThumb(picture.pixels, rule), marks: [] }
  return { findings: [...container, ...shown.findings], marks: shown.marks }
}

function containerFindings(kind: ImageKind, facts: ImageFacts, rule: ImageRule): Finding[] {
  const stated = (code: string, ok: boolean, parameters: Finding['parameters']): Finding => ({ code: `${kind}.${code}`, about: kind, verdict: ok ? 'pass' : 'fail', value: null, unit: 'none', bound: null, parameters })
  const findings = [
    stated('format', rule.formats.includes(facts.format), { format: facts.format.toUpperCase(), allowed: rule.formats.map(f => f.toUpperCase()).join(', ') }),
    imageFinding(kind, 'bytes', facts.bytes, 0, 'bytes', rule.bytes),
    imageFinding(kind, 'width', facts.width, 0, 'px', rule.width),
    imageFinding(kind, 'height', facts.height, 0, 'px', rule.height),
    imageFinding(kind, 'aspect', facts.width / facts.height, 3, 'ratio', rule.aspect, { parameters: { width: facts.width, height: facts.height } }),
  ]
  // What is as nearly every picture has it needs no line.
  if (facts.colour === 'cmyk' || facts.depth !== 8) findings.push(stated('colourModel', false, { colour: facts.colour, depth: facts.depth }))
  if (facts.embedded > 0) findings.push(stated('embedded', true, { count: facts.embedded }))
  return findings
}

/** Findings on a signature: each measure for which the notice sets a bound. */
function signatureFindings(measures: SignatureMeasures, rule: ImageRule): Finding[] {
  const { blank } = measures
  const findings: Finding[] = []
  const add = (code: 'contrast' | 'inkShare' | 'boxShare' | 'pieces' | 'strokeWidth' | 'cutOff' | 'paper' | 'shade' | 'saturation', unit: Finding['unit'], places: number, margin?: number) => {
    const bound = rule[code]
    // What is not there has no shape: a blank paper fails for its ink alone.
    if (bound && (!blank || ['contrast', 'inkShare', 'paper', 'shade'].includes(code))) findings.push(imageFinding('signature', code, measures[code], places, unit, bound, { margin, parameters: { blank } }))
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
