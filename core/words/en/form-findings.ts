import type { Bound, Finding, Unit } from '../../finding/finding'
import { eligibilityWords } from './eligibility'
import type { FindingTeller } from './of-findings'

/** The English words of a finding. `title` is what was checked, `advice` what to do; both are whole phrases. */
export interface FindingWords {
  title: string
  value: string
  bound: string
  advice: string
}

const p = (f: Finding, name: string) => String(f.parameters[name] ?? '')

const printed = (f: Finding) => `The admit card prints ${p(f, 'printed')}.`

const sheetWords: Record<string, FindingTeller> = {
  'sheet.missing': f => ({ title: `${p(f, 'label')} is missing`, advice: 'Needed before the form can be submitted.' }),
  'sheet.shape': f => ({ title: `${p(f, 'label')} cannot be read`, advice: 'Enter it again.' }),
  'sheet.name': f => ({
    title: `${p(f, 'label')} has signs that no name has`,
    advice: 'Use letters, blanks, hyphens, dots and apostrophes; no digits.',
  }),
  'sheet.length': f => ({ title: `${p(f, 'label')} is too long`, advice: `At most ${p(f, 'max')} characters fit.` }),
  'sheet.month': f => ({
    title: `${p(f, 'label')} is not a month that exists`,
    advice: 'Write month and year, such as Feb 2004 or 02/2004.',
  }),
  'sheet.date': f => ({ title: `${p(f, 'label')} is not a day that exists`, advice: 'Write year, month and day, such as 2004-02-29.' }),
  'sheet.future': f => ({ title: `${p(f, 'label')} lies in the future`, advice: `The latest day possible is today, ${p(f, 'today')}.` }),
  'sheet.dateBefore': f => ({
    title: `${p(f, 'label')} is too early`,
    advice: `The earliest day possible is ${p(f, 'bound')}. Check the year.`,
  }),
  'sheet.dateAfter': f => ({
    title: `${p(f, 'label')} is too late`,
    advice: `The latest day possible is ${p(f, 'bound')}. Check the year.`,
  }),
  'sheet.option': f => ({ title: `${p(f, 'label')}: not one of the notice's`, advice: 'Pick from the list.' }),
  'sheet.email': f => ({ title: `${p(f, 'label')} is not an e-mail address`, advice: 'It needs the form name@place.example.' }),
  'sheet.digits': f => ({
    title: `${p(f, 'label')} needs exactly ${p(f, 'digits')} digits`,
    advice: 'Digits only; blanks and hyphens between them do no harm in a telephone number.',
  }),
  'sheet.postalCode': f => ({
    title: `${p(f, 'label')} leads to no place`,
    advice: 'No district of the federation has this code. Check its first two digits.',
  }),
  'sheet.number': f => ({ title: `${p(f, 'label')} is out of range`, advice: `A whole number from ${p(f, 'min')} to ${p(f, 'max')}.` }),
  'sheet.number.shape': f => ({
    title: `${p(f, 'label')} is not written like one`,
    advice: `It looks like ${p(f, 'examples')}. Look at the paper again.`,
  }),
  'sheet.number.check': f => ({
    title: `${p(f, 'label')} has a wrong letter or digit`,
    advice: 'Its check digit does not agree. Look at the paper again.',
  }),
  'sheet.decimal': f => ({
    title: `${p(f, 'label')} is not a number`,
    advice: 'Digits with at most six decimals after a point, such as 412.5.',
  }),
  'sheet.marksAbove': f => ({
    title: `${p(f, 'label')} is above the total of ${p(f, 'total')}`,
    advice: 'Check both against the certificate.',
  }),
  'sheet.rows': f => ({ title: `${p(f, 'label')}: ${p(f, 'min')} to ${p(f, 'max')} rows are allowed`, advice: 'Add or remove some.' }),
  'sheet.double': f => ({ title: `${p(f, 'label')}: one stands there twice`, advice: 'Each may be named once.' }),
  'sheet.groupLeast': f => ({
    title: `${p(f, 'group')}: at least ${p(f, 'bound')}, chosen ${p(f, 'chosen')}`,
    advice: 'Choose more of these.',
  }),
  'sheet.groupMost': f => ({
    title: `${p(f, 'group')}: at most ${p(f, 'bound')}, chosen ${p(f, 'chosen')}`,
    advice: 'Take some of these away.',
  }),
  'sheet.load': f => ({
    title: `What is chosen counts for ${p(f, 'chosen')}; at most ${p(f, 'max')} is allowed`,
    advice: 'Take something away.',
  }),
  'sheet.postEarly': f => ({ title: `${p(f, 'post')} can be chosen from ${p(f, 'opens')} on`, advice: 'Take it away, or wait.' }),
  'sheet.postClosed': f => ({ title: `${p(f, 'post')} could be chosen until ${p(f, 'closes')}`, advice: 'Take it away.' }),
  'sheet.collide': f => ({
    title: `${p(f, 'first')} and ${p(f, 'second')} are held at the same time`,
    advice: 'Nobody can sit both. Take one of them away.',
  }),
  'sheet.collideTogether': f => ({
    title: `${p(f, 'posts')} cannot all be sat by one person`,
    advice: 'Each two of them can, but not all: their sessions collide. Take one away.',
  }),
  'sheet.listLength': f => ({ title: `${p(f, 'label')}: ${p(f, 'min')} to ${p(f, 'max')} are allowed`, advice: 'Add or remove some.' }),
  'sheet.names.spelling': f => ({ title: 'Names differ by spelling, an accent or a hyphen', advice: printed(f) }),
  'sheet.names.order': f => ({ title: 'Names stand in another order', advice: printed(f) }),
  'sheet.names.initials': f => ({ title: 'One name is shortened to initials', advice: `Compare with the identity proof. ${printed(f)}` }),
  'sheet.names.different': () => ({
    title: 'Names differ',
    advice: "Two different names need proof that they are one person's. Judge by the papers.",
  }),
}

const known: Record<string, FindingTeller> = { ...sheetWords, ...eligibilityWords }

/** Makes words for further findings known, by code; of what is measured on pictures without the kind of picture that a code begins with. */
export function knowFindings(more: Record<string, FindingTeller>): void {
  Object.assign(known, more)
}

/** Words for one finding. A code without words is a fault of these files: it shows the bare code. */
export function findingWords(finding: Finding): FindingWords {
  const imageKey = finding.code.split('.').slice(1).join('.')
  const said = (known[finding.code] ?? known[imageKey])?.(finding) ?? { title: finding.code }
  return {
    title: said.title,
    value: said.value ?? (finding.value === null ? '' : spellMeasure(finding.value, finding.unit)),
    bound: said.bound ?? (finding.bound ? spellBound(finding.bound, finding.unit) : ''),
    advice: said.advice ?? '',
  }
}

/** What a code checks, where no finding is at hand. */
export const findingTitle = (code: string): string =>
  findingWords({ code, about: '', value: null, unit: 'none', bound: null, verdict: 'fail', parameters: {} }).title.replace(/ by null°/, '')

/** A measured value with its unit. Sizes give kilobytes (1 KB = 1024 bytes) and the exact bytes. */
export function spellMeasure(value: number, unit: Unit): string {
  switch (unit) {
    case 'bytes':
      return `${(value / 1024).toFixed(1)} KB (${value.toLocaleString('en-GB')} bytes)`
    case 'px':
      return `${value} px`
    case 'mm':
      return `${value} mm`
    case 'dpi':
      return `${value} dots an inch`
    case 'ratio':
      return value.toFixed(3)
    case 'percent':
      return `${value} %`
    case 'degree':
      return `${value}°`
    case 'years':
      return `${value} years`
    case 'days':
      return `${value} days`
    case 'level':
      return `${value} of 255`
    default:
      return String(value)
  }
}

function spellBound(bound: Bound, unit: Unit): string {
  const spell = (value: number) =>
    unit === 'bytes' ? `${value / 1024} KB` : unit === 'ratio' ? value.toFixed(2) : unit === 'px' ? `${value} px` : `${value}`
  if (bound.min !== undefined && bound.max !== undefined) return `${spell(bound.min)} to ${spell(bound.max)}`
  if (bound.min !== undefined) return `from ${spell(bound.min)}`
  return bound.max !== undefined ? `to ${spell(bound.max)}` : ''
}
