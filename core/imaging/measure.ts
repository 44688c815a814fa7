import type { Bound, Finding, Verdict } from '../finding/finding'
import type { ImageKind } from '../notice/schema'
import type { ImageRule } from '../notice/file-rules'
import { inkNames, type InkName } from './ink'
import { imageFinding, type Measurement } from './image-finding'
import { measurePhotograph } from './photograph'
import type { ImageFacts, Picture } from './picture'
import { ruled } from './rulings'
import { measureSignature, onItsSide, type SignatureMeasures } from './signature'
import { measureThumb } from './thumb'

/** All findings on one image: container, shape, then what its pixels show. Order is fixed. */
export function measureImage(kind: ImageKind, picture: Picture, rule: ImageRule): Measurement {
  const container = containerFindings(kind, picture.facts, rule)
  const shown: Measurement = kind === 'photograph'
    ? measurePhotograph(picture, rule)
    : {
      findings: kind === 'signature' ? signatureFindings(measureSignature(picture.pixels), rule) : measureThumb(picture.pixels, rule),
      marks: [],
    }
  return { findings: [...container, ...shown.findings], marks: shown.marks }
}

function containerFindings(kind: ImageKind, facts: ImageFacts, rule: ImageRule): Finding[] {
  const stated = (code: string, ok: boolean, parameters: Finding['parameters']): Finding => ({
    code: `${kind}.${code}`,
    about: kind,
    verdict: ok ? 'pass' : 'fail',
    value: null,
    unit: 'none',
    bound: null,
    parameters,
  })
  const findings = [
    stated('format', rule.formats.includes(facts.format), {
      format: facts.format.toUpperCase(),
      allowed: rule.formats.map(f => f.toUpperCase()).join(', '),
    }),
    imageFinding(kind, 'bytes', facts.bytes, 0, 'bytes', rule.bytes),
    imageFinding(kind, 'width', facts.width, 0, 'px', rule.width),
    imageFinding(kind, 'height', facts.height, 0, 'px', rule.height),
    imageFinding(kind, 'aspect', facts.width / facts.height, 3, 'ratio', rule.aspect, {
      parameters: { width: facts.width, height: facts.height },
    }),
  ]
  // What is as nearly every picture has it needs no line.
  if (facts.colour === 'cmyk' || facts.depth !== 8) {
    findings.push(stated('colourModel', false, { colour: facts.colour, depth: facts.depth }))
  }
  if (facts.embedded > 0) findings.push(stated('embedded', true, { count: facts.embedded }))
  // Clocks of cameras go wrong: a picture that says that it is old is for a person to judge, and one that says nothing is not asked.
  if (rule.takenFrom !== undefined && facts.taken !== undefined) {
    findings.push({
      ...stated('taken', true, { taken: facts.taken, from: rule.takenFrom }),
      verdict: facts.taken >= rule.takenFrom ? 'pass' : 'unsure',
    })
  }
  return findings
}

/** Findings on a signature: each measure for which the notice sets a bound. */
function signatureFindings(measures: SignatureMeasures, rule: ImageRule): Finding[] {
  const { blank } = measures
  const findings: Finding[] = []
  const add = (
    code: 'contrast' | 'inkShare' | 'boxShare' | 'pieces' | 'strokeWidth' | 'cutOff' | 'paper' | 'shade' | 'saturation',
    unit: Finding['unit'],
    places: number,
    margin?: number,
  ) => {
    const bound = rule[code]
    // What is not there has no shape: a blank paper fails for its ink alone.
    if (bound && (!blank || ['contrast', 'inkShare', 'paper', 'shade'].includes(code))) {
      findings.push(imageFinding('signature', code, measures[code], places, unit, bound, { margin, parameters: { blank } }))
    }
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
  return blank ? findings : [...findings, ...lookOf(measures, rule)]
}

/** Of the ink, percent of other colours than the notice takes: from here on they are a fault, from there a doubt. */
const otherInk = { sure: 25, perhaps: 10 } as const

/** What else lies on the paper, of what colour the ink is, and whether it has the shape of one signature. */
function lookOf({ rulings, inks, strange, parts, enclosed, inkAspect }: SignatureMeasures, rule: ImageRule): Finding[] {
  const findings: Finding[] = []
  const add = (
    code: string,
    value: number,
    places: number,
    unit: Finding['unit'],
    bound: Bound | undefined,
    verdict?: Verdict,
    parameters?: Finding['parameters'],
  ) => {
    if (bound) findings.push(imageFinding('signature', code, value, places, unit, bound, { verdict, parameters }))
  }
  /** Never a fault by itself: people's signatures differ. */
  const doubt = (value: number, { min = -Infinity, max = Infinity }: Bound = {}): Verdict => value < min || value > max ? 'unsure' : 'pass'
  add('rulings', rulings.count, 0, 'count', rule.rulings, rulings.count === 0 && rulings.longest >= ruled.perhaps ? 'unsure' : undefined)
  if (rule.inks && inks) {
    const taken: readonly InkName[] = rule.inks
    const others = inkNames.filter(name => !taken.includes(name))
    const share = 100 * others.reduce((sum, name) => sum + inks[name], 0)
    const most = others.reduce<InkName | null>((found, name) => found === null || inks[name] > inks[found] ? name : found, null)
    add(
      'inkColour',
      share,
      0,
      'percent',
      { max: otherInk.sure },
      share >= otherInk.sure ? 'fail' : share >= otherInk.perhaps ? 'unsure' : 'pass',
      { allowed: taken.join(', '), most: most ?? '' },
    )
  }
  add('strange', strange, 1, 'percent', rule.strange)
  add('parts', parts, 0, 'count', rule.parts, doubt(parts, rule.parts))
  add('enclosed', enclosed, 0, 'percent', rule.enclosed, doubt(enclosed, rule.enclosed))
  add(
    'inkAspect',
    inkAspect,
    2,
    'ratio',
    rule.inkAspect,
    inkAspect < onItsSide && doubt(inkAspect, rule.inkAspect) !== 'pass' ? 'fail' : doubt(inkAspect, rule.inkAspect),
  )
  return findings
}
