import type { Bound, Finding, Unit } from '../../finding/finding'
import { eligibilityWords } from './eligibility'

/** The English words of a finding. `title` is what was checked, `advice` what to do; both are whole phrases. */
export interface FindingWords { title: string, value: string, bound: string, advice: string }

type Words = (f: Finding) => { title: string, advice?: string, value?: string, bound?: string }
const p = (f: Finding, name: string) => String(f.parameters[name] ?? '')
const below = (f: Finding) => f.value !== null && f.bound?.min !== undefined && f.value < f.bound.min
const whenNot = (f: Finding, advice: string) => f.verdict === 'pass' ? '' : advice

const sheetWords: Record<string, Words> = {
  'sheet.missing': f => ({ title: `${p(f, 'label')} is missing`, advice: 'Needed before the form can be submitted.' }),
  'sheet.shape': f => ({ title: `${p(f, 'label')} cannot be read`, advice: 'Enter it again.' }),
  'sheet.name': f => ({ title: `${p(f, 'label')} has signs that no name has`, advice: 'Use letters, blanks, hyphens, dots and apostrophes; no digits.' }),
  'sheet.length': f => ({ title: `${p(f, 'label')} is too long`, advice: `At most ${p(f, 'max')} characters fit.` }),
  'sheet.date': f => ({ title: `${p(f, 'label')} is not a day that exists`, advice: 'Write year, month and day, such as 2004-02-29.' }),
  'sheet.future': f => ({ title: `${p(f, 'label')} lies in the future`, advice: `The latest day possible is today, ${p(f, 'today')}.` }),
  'sheet.dateBefore': f => ({ title: `${p(f, 'label')} is too early`, advice: `The earliest day possible is ${p(f, 'bound')}. Check the year.` }),
  'sheet.dateAfter': f => ({ title: `${p(f, 'label')} is too late`, advice: `The latest day possible is ${p(f, 'bound')}. Check the year.` }),
  'sheet.option': f => ({ title: `${p(f, 'label')}: not one of the notice's`, advice: 'Pick from the list.' }),
  'sheet.email': f => ({ title: `${p(f, 'label')} is not an e-mail address`, advice: 'It needs the form name@place.example.' }),
  'sheet.digits': f => ({ title: `${p(f, 'label')} needs exactly ${p(f, 'digits')} digits`, advice: 'Digits only; blanks and hyphens between them do no harm in a telephone number.' }),
  'sheet.postalCode': f => ({ title: `${p(f, 'label')} leads to no place`, advice: 'No district of the federation has this code. Check its first two digits.' }),
  'sheet.number': f => ({ title: `${p(f, 'label')} is out of range`, advice: `A whole number from ${p(f, 'min')} to ${p(f, 'max')}.` }),
  'sheet.decimal': f => ({ title: `${p(f, 'label')} is not a number`, advice: 'Digits with at most six decimals after a point, such as 412.5.' }),
  'sheet.marksAbove': f => ({ title: `${p(f, 'label')} is above the total of ${p(f, 'total')}`, advice: 'Check both against the certificate.' }),
  'sheet.rows': f => ({ title: `${p(f, 'label')}: ${p(f, 'min')} to ${p(f, 'max')} rows are allowed`, advice: 'Add or remove some.' }),
  'sheet.double': f => ({ title: `${p(f, 'label')}: one stands there twice`, advice: 'Each may be named once.' }),
  'sheet.listLength': f => ({ title: `${p(f, 'label')}: ${p(f, 'min')} to ${p(f, 'max')} are allowed`, advice: 'Add or remove some.' }),
  'sheet.names.spelling': () => ({ title: 'Names differ by spelling, an accent or a hyphen', advice: 'The admit card prints the certificate\'s form.' }),
  'sheet.names.order': () => ({ title: 'Names stand in another order', advice: 'The admit card prints the certificate\'s form.' }),
  'sheet.names.initials': () => ({ title: 'One name is shortened to initials', advice: 'Compare with the identity proof; the card prints the certificate\'s form.' }),
  'sheet.names.different': () => ({ title: 'Names differ', advice: 'Two different names need proof that they are one person\'s. Judge by the papers.' }),
}

const imageWords: Record<string, Words> = {
  format: f => ({ title: 'File format', value: p(f, 'format'), bound: p(f, 'allowed'), advice: whenNot(f, `Save the picture as ${p(f, 'allowed')}.`) }),
  bytes: f => ({ title: 'File size', advice: whenNot(f, below(f) ? 'The file is too small to hold enough detail. Save it with less compression.' : 'Save it with more compression or fewer pixels.') }),
  width: f => ({ title: 'Width', advice: whenNot(f, below(f) ? 'Too few pixels across. Take the picture from nearer or scan finer.' : 'Shrink the picture.') }),
  height: f => ({ title: 'Height', advice: whenNot(f, below(f) ? 'Too few pixels from top to bottom. Take the picture from nearer or scan finer.' : 'Shrink the picture.') }),
  aspect: f => ({ title: 'Width to height', advice: whenNot(f, below(f) ? 'Too narrow. Cut some off above or below.' : 'Too wide. Cut some off at the sides.') }),
  upright: f => ({
    title: f.verdict === 'fail' ? `Turned by ${f.value}°` : f.verdict === 'unsure' ? 'Upright cannot be told' : 'Upright',
    value: f.verdict === 'unsure' ? 'by eye' : undefined, bound: '0°',
    advice: f.verdict === 'fail' ? 'The shoulders should meet the lower edge. Turn the picture.' : whenNot(f, 'No edge shows the shoulders clearly. Judge by eye.'),
  }),
  sharpness: f => ({ title: 'Sharpness in the middle', advice: whenNot(f, f.verdict === 'unsure' ? 'Close to the limit. Judge by eye.' : 'Blurred, by movement or focus. Ask for a new picture with the camera held still.') }),
  exposure: f => ({ title: 'Exposure, brightest tenth', advice: whenNot(f, 'The whole picture is too dark. Face the light and take it again.') }),
  burntOut: f => ({ title: 'Burnt out to white', advice: whenNot(f, 'Too much light on the face. Move out of the direct light.') }),
  contrast: f => ({
    title: f.about === 'signature' ? 'Ink against paper' : 'Contrast',
    advice: whenNot(f, f.about === 'signature' ? 'Too faint to print. Sign with a dark pen on white paper.' : below(f) ? 'Flat, as in fog. Use more light from the side of the camera.' : 'Hard light and shadow. Use softer light.'),
  }),
  backgroundEvenness: f => ({ title: 'Evenness of the background', advice: whenNot(f, f.verdict === 'unsure' ? 'Close to the limit. Judge by eye.' : 'Stand before a plain wall, a step away from it.') }),
  boxShare: f => ({ title: 'Signature within the picture', advice: whenNot(f, below(f) ? 'The signature is small in the picture. Cut the picture close around it.' : 'The signature fills the picture to its edges. Leave a little paper around it.') }),
  pieces: f => ({ title: 'Pieces of ink', value: `${f.value} pieces`, bound: f.bound?.max === undefined ? undefined : `at most ${f.bound.max}`, advice: whenNot(f, 'So many pieces are writing or print, not a signature. Sign on plain white paper.') }),
  strokeWidth: f => ({ title: 'Width of the strokes', advice: whenNot(f, below(f) ? 'The line is too thin to print. Sign with a stronger pen.' : 'No pen draws so wide: a block, a stamp or another picture. Sign with a pen.') }),
  cutOff: f => ({ title: 'Ink that runs off the picture', advice: whenNot(f, 'Part of the signature is cut off. Take the picture again with paper on all sides.') }),
  paper: f => ({ title: 'Lightness of the paper', advice: whenNot(f, 'The paper looks grey. Use white paper and more light.') }),
  shade: f => ({ title: 'Shadow on the paper', advice: whenNot(f, 'A shadow lies on the paper. Hold the light so that no hand or telephone stands before it.') }),
  saturation: f => ({
    title: 'Colour of the picture',
    advice: whenNot(f, f.about === 'signature' ? 'Too colourful for pen on paper: is it another picture? Add the signature here.' : 'The picture is grey. Add one in colour.'),
  }),
  background: f => ({
    title: 'Colour of the background', value: `${p(f, 'colour')}, ${f.value} from ${p(f, 'nearest')}`, bound: f.bound?.max === undefined ? undefined : `at most ${f.bound.max}`,
    advice: whenNot(f, f.verdict === 'unsure' ? 'Close to the limit. Judge by eye.' : `Stand before a wall that is ${p(f, 'allowed').replace(/, ([^,]*)$/, ' or $1')}.`),
  }),
  sideLight: f => ({ title: 'Light from one side', advice: whenNot(f, f.verdict === 'unsure' ? 'Close to the limit. Judge by eye.' : 'One half of the face is much darker. Turn towards the light and take it again.') }),
  inkShare: f => ({ title: 'Ink on the paper', advice: whenNot(f, f.parameters.blank ? 'The paper is blank. Take a picture of the signature.' : below(f) ? 'The signature is tiny. Cut the picture close around it.' : 'Too much is dark: a block, a shadow or another picture. Sign on white paper.') }),
}

/** Words for one finding. A code without words is a fault of this file: it shows the bare code. */
export function findingWords(finding: Finding): FindingWords {
  const imageKey = finding.code.split('.').slice(1).join('.')
  const words = sheetWords[finding.code] ?? eligibilityWords[finding.code] ?? imageWords[imageKey]
  const said = words?.(finding) ?? { title: finding.code }
  return {
    title: said.title,
    value: said.value ?? (finding.value === null ? '' : spellMeasure(finding.value, finding.unit)),
    bound: said.bound ?? (finding.bound ? spellBound(finding.bound, finding.unit) : ''),
    advice: said.advice ?? '',
  }
}

/** A measured value with its unit. Sizes give kilobytes (1 KB = 1024 bytes) and the exact bytes. */
export function spellMeasure(value: number, unit: Unit): string {
  switch (unit) {
    case 'bytes': return `${(value / 1024).toFixed(1)} KB (${value.toLocaleString('en-GB')} bytes)`
    case 'px': return `${value} px`
    case 'ratio': return value.toFixed(3)
    case 'percent': return `${value} %`
    case 'degree': return `${value}°`
    case 'years': return `${value} years`
    case 'days': return `${value} days`
    case 'level': return `${value} of 255`
    default: return String(value)
  }
}

function spellBound(bound: Bound, unit: Unit): string {
  const spell = (value: number) => unit === 'bytes' ? `${value / 1024} KB` : unit === 'ratio' ? value.toFixed(2) : unit === 'px' ? `${value} px` : `${value}`
  if (bound.min !== undefined && bound.max !== undefined) return `${spell(bound.min)} to ${spell(bound.max)}`
  if (bound.min !== undefined) return `from ${spell(bound.min)}`
  return bound.max !== undefined ? `to ${spell(bound.max)}` : ''
}
