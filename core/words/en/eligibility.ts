import { spellBirthday, spellDate } from '../../calendar/zone'
import { spellHundredths } from '../../marks/decimal'
import type { Finding, WorkingLine } from '../../finding/finding'
import { counted } from './counted'

/** The English words of the findings of `core/eligibility` and of the workings behind them. */
type Words = (f: Finding) => { title: string, advice?: string, value?: string, bound?: string }
const p = (f: { parameters: Finding['parameters'] }, name: string) => String(f.parameters[name] ?? '')
const maybe = (f: Finding) => p(f, 'maybe') ? ` Would fit with ${p(f, 'maybe')}: answer that question.` : ''
/** Several sentences, empty ones left out. */
const sentences = (...parts: string[]) => parts.filter(part => part.trim() !== '').map(part => part.trim()).join(' ')

const faults: Record<string, (f: Finding) => string> = {
  'unreadable': f => `“${p(f, 'value')}” is not a number. Digits with at most six decimals after a point.`,
  'above-total': f => `${p(f, 'value')} is above ${p(f, 'bound')}. Check both against the certificate.`,
  'zero-total': () => 'A total of 0 gives no percentage.',
  'unknown-board': f => `“${p(f, 'value')}” is not a board of the notice. Pick from its list.`,
  'unknown-grade': f => `Grade “${p(f, 'value')}” is not on the scale of ${p(f, 'board')}.`,
  'no-grade-scale': f => `${p(f, 'board')} gives no grades. State marks.`,
  'no-point-scale': f => `${p(f, 'board')} gives no grade points. State marks.`,
  'above-scale': f => `${p(f, 'value')} does not fit a scale that ends at ${p(f, 'bound')}.`,
  'too-few-subjects': f => `${p(f, 'value')} subjects stated that count; the board's rule needs ${p(f, 'bound')}.`,
  'subject-missing': f => `The board's rule counts ${p(f, 'subject') || 'at least one subject'}, which is not stated.`,
  'subject-twice': f => `${p(f, 'subject')} stands there twice.`,
  'unknown-option': f => `“${p(f, 'value')}” is not one of the notice's. Pick from its list.`,
  'no-day': f => `“${p(f, 'value')}” is not a day that exists.`,
  'after-date': f => `${p(f, 'value')} lies after ${p(f, 'bound')}.`,
  'ends-before': f => `A period ends on ${p(f, 'value')}, before it begins on ${p(f, 'bound')}.`,
  'no-year': f => `“${p(f, 'value')}” is no year up to ${p(f, 'bound')}.`,
}

function ageWords(f: Finding): ReturnType<Words> {
  const [latest, earliest] = [p(f, 'latestBirth'), p(f, 'earliestBirth')]
  const born = latest && earliest
    ? `Born from ${spellBirthday(earliest)} to ${spellBirthday(latest)} fits.`
    : earliest
    ? `Born from ${spellBirthday(earliest)} fits.`
    : `Born by ${spellBirthday(latest)} fits.`
  const off = Number(f.parameters.distance)
  const relaxed = p(f, 'relaxation') && Number(f.parameters.extra) > 0
    ? `${p(f, 'maxYears') ? `${p(f, 'maxYears')} + ` : ''}${p(f, 'extra')} years for ${p(f, 'relaxation')}.`
    : ''
  const lowered = Number(f.parameters.lowered ?? 0) > 0
    ? `${p(f, 'minYears') ? `${p(f, 'minYears')} - ` : 'Later by '}${p(f, 'lowered')} years for ${p(f, 'loweredFor')}.`
    : ''
  return {
    title: `Age on ${spellDate(p(f, 'on'))}`,
    value: `${p(f, 'years')} y ${p(f, 'months')} m ${p(f, 'days')} d`,
    bound: ageBound(f),
    advice: sentences(born, off < 0 && f.verdict === 'fail' ? `${days(-off)} outside.` : '', relaxed, lowered, maybe(f)),
  }
}

// "Not above 24" takes the 24th birthday and no day more: the bound is spelled to the day, so that a day beyond it does not seem to lie
// inside.
function ageBound({ bound }: Finding): string {
  const [least, most] = [bound?.min, bound?.max]
  const last = most === undefined ? '' : `${most} y 0 m 0 d`
  return least === undefined ? last && `to ${last}` : last ? `${least} to ${last}` : `from ${least}`
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)
const days = (n: number) => `${n.toLocaleString('en-GB')} ${n === 1 ? 'day' : 'days'}`

// Said only where exact and rounded value could part ways.
function comparison(f: Finding): string {
  if (p(f, 'exact') === spellHundredths(Number(f.parameters.hundredths)).replace(/\.?0+$/, '')) return ''
  return p(f, 'compared') === 'exact' ? `${p(f, 'exact')} %, compared unrounded.` : 'Compared as rounded to two decimals.'
}

function percentageWords(f: Finding): ReturnType<Words> {
  const relaxed = p(f, 'relaxation') ? `Norm ${p(f, 'base')} % lowered for ${p(f, 'relaxation')}.` : ''
  const away = p(f, 'distance').replace(/^-/, '')
  return {
    title: p(f, 'of') ? `Marks in ${p(f, 'of')} together` : 'Marks',
    value: `${spellHundredths(Number(f.parameters.hundredths))} %`,
    bound: `from ${p(f, 'norm')} %`,
    advice: sentences(
      comparison(f),
      f.verdict === 'fail' ? `${away} % short.` : '',
      relaxed,
      p(f, 'band') === 'lower' ? 'Open by the lower norm alone.' : '',
      maybe(f),
    ),
  }
}

export const eligibilityWords: Record<string, Words> = {
  'eligibility.missing': f => ({
    title: `${f.origin?.post}: ${p(f, 'kind')} not known yet`,
    advice: `Answer “${p(f, 'question')}” to settle it.`,
  }),
  'eligibility.unreadable': f => ({
    title: `${f.origin?.post}: ${p(f, 'kind')} cannot be judged`,
    advice: sentences(`“${p(f, 'question')}”:`, faults[p(f, 'fault')]?.(f) ?? ''),
  }),
  'eligibility.age': ageWords,
  'eligibility.percentage': percentageWords,
  'eligibility.qualification': f => ({
    title: 'Qualification',
    value: p(f, 'own'),
    bound: p(f, 'wanted'),
    advice: sentences(p(f, 'countsAs') ? `Counts as ${p(f, 'countsAs')}.` : ''),
  }),
  'eligibility.discipline': f => ({ title: 'Discipline', value: p(f, 'own'), bound: p(f, 'wanted') }),
  'eligibility.awaited': f => ({
    title: 'Result awaited',
    value: p(f, 'by') ? `by ${spellBirthday(p(f, 'by'))}` : '',
    bound: p(f, 'until') ? `by ${spellBirthday(p(f, 'until'))}` : 'must be there',
    advice: sentences(f.verdict === 'pass' ? 'The result must be shown by then.' : ''),
  }),
  'eligibility.recency': f => ({
    title: 'Years since passing',
    value: `${p(f, 'year')} − ${p(f, 'passedIn')} = ${f.value}`,
    bound: `to ${f.bound?.max}`,
  }),
  'eligibility.subjects': f => ({
    title: 'Subjects',
    value: `${f.value} of those wanted`,
    bound: `from ${f.bound?.min}`,
    advice: sentences(
      f.verdict !== 'pass' && p(f, 'lacking') ? `Lacking: ${p(f, 'lacking')}.` : '',
      p(f, 'open') ? `Not told, or not readable: ${p(f, 'open')}.` : '',
    ),
  }),
  'eligibility.oneOf': f => ({
    title: p(f, 'question'),
    value: p(f, 'own') || 'not asked',
    bound: f.verdict === 'pass' ? '' : p(f, 'wanted'),
  }),
  'eligibility.number': f => ({
    title: p(f, 'lessQuestion') ? `${p(f, 'question')} less ${p(f, 'lessQuestion')}` : p(f, 'question'),
    value: counted(f.value ?? '–', p(f, 'unit')),
    advice: sentences(
      f.verdict === 'fail' ? `${counted(p(f, 'distance').replace(/^-/, ''), p(f, 'unit'))} outside.` : '',
      p(f, 'relaxation') ? `Eased for ${p(f, 'relaxation')}.` : '',
      maybe(f),
    ),
  }),
  'eligibility.day': f => ({
    title: p(f, 'question'),
    value: spellDate(p(f, 'day')),
    bound: [p(f, 'notBefore') ? `not before ${spellDate(p(f, 'notBefore'))}` : '',
      p(f, 'notAfter') ? `not after ${spellDate(p(f, 'notAfter'))}` : ''].filter(Boolean).join(', '),
    advice: f.verdict === 'fail' ? `${days(-Number(f.parameters.distance))} too ${p(f, 'early') === 'true' ? 'early' : 'late'}.` : '',
  }),
  'eligibility.experience': f => ({
    title: `Experience by ${spellDate(p(f, 'on'))}`,
    value: days(f.value ?? 0),
    bound: `from ${days(f.bound?.min ?? 0)}`,
    advice: sentences(
      p(f, 'periods') === '0'
        ? 'No work stated.'
        : `${p(f, 'periods')} ${p(f, 'periods') === '1' ? 'period' : 'periods'}; days that overlap counted once.`,
      Number(f.parameters.otherKinds ?? 0) > 0 ? `${p(f, 'otherKinds')} of another kind left out.` : '',
      p(f, 'after') ? `Only what came after ${spellDate(p(f, 'after'))}.` : '',
      f.verdict === 'fail' ? `${days(-Number(f.parameters.distance))} short.` : '',
      p(f, 'relaxation') ? `Eased for ${p(f, 'relaxation')}.` : '',
      maybe(f),
    ),
  }),
  'eligibility.all': f => ({ title: `All of ${p(f, 'ways')}`, value: '' }),
  'eligibility.any': f => ({ title: `One of ${p(f, 'ways')} ways`, value: '' }),
  'eligibility.not': f => ({ title: p(f, 'title'), value: '' }),
  'eligibility.excepted': f => ({ title: p(f, 'title'), value: 'granted by the office' }),
  'eligibility.exception-asked': f => ({
    title: p(f, 'title'),
    value: 'asked for',
    advice: 'The clause is not met. Whether it is passed by, the office decides.',
  }),
  'eligibility.exempt': f => ({ title: capital(p(f, 'what').replace(/-/g, ' ')), value: 'does not apply' }),
}

/** The words of one line of a working; `subject` gives a subject's title. */
export function workingWords(line: WorkingLine, subject: (id: string) => string = id => id): { label: string, value: string } {
  switch (line.code) {
    case 'total':
      return { label: 'Marks obtained of marks in total', value: `${p(line, 'obtained')} of ${p(line, 'total')}` }
    case 'certificate':
      return { label: 'Percentage on the equivalence certificate', value: `${p(line, 'percent')} %` }
    case 'points':
      return { label: 'Grade points / scale × 100', value: `${p(line, 'points')} / ${p(line, 'max')} × 100` }
    case 'pointsByFactor':
      return { label: "Grade points × the board's factor", value: `${p(line, 'points')} × ${p(line, 'factor')}` }
    case 'subject':
      return { label: subject(p(line, 'subject')), value: `${p(line, 'obtained')} of ${p(line, 'total')} = ${p(line, 'percent')} %` }
    case 'subjectLeftOut':
      return {
        label: `${subject(p(line, 'subject'))}, not counted`,
        value: `${p(line, 'obtained')} of ${p(line, 'total')} = ${p(line, 'percent')} %`,
      }
    case 'sum':
      return { label: `${p(line, 'subjects')} subjects together`, value: `${p(line, 'obtained')} of ${p(line, 'total')}` }
    case 'percent':
      return {
        label: 'Percentage',
        value: p(line, 'exact') === p(line, 'shown') ? `${p(line, 'shown')} %` : `${p(line, 'exact')} %, shown ${p(line, 'shown')} %`,
      }
    default:
      return { label: line.code, value: '' }
  }
}
