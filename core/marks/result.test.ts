import fc from 'fast-check'
import Decimal from 'decimal.js'
import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../tests/support/sample'
import type { Answers, Row } from '../application/answers'
import { boardSchema, type Board } from '../notice/rules'
import { roundToHundredths, spellExact, spellHundredths } from './decimal'
import { qualifyingResult } from './result'

const withBoard = (board: object) => ({
  ...sampleNotice(),
  boards: [boardSchema.parse({ id: 'trial', title: 'Trial Board', ...board })] as Board[],
})
const rows = (marks: Record<string, string>): Row[] =>
  Object.entries(marks).map(([subject, text]) => {
    const [obtained = '', total = '100'] = text.split('/')
    return /^[A-Z]/.test(text) ? { subject, obtained: '', total: '', grade: text } : { subject, obtained, total, grade: '' }
  })
const shown = (board: object, answers: Answers) => {
  const result = qualifyingResult(withBoard(board), { board: 'trial', ...answers })
  return result.found ? spellHundredths(roundToHundredths(result.percent)) : `${result.gap.question}: ${result.gap.fault}`
}
const bySubject = (board: object, marks: Record<string, string>) => shown(board, { resultForm: 'subjects', subjects: rows(marks) })
const byPoints = (board: object, gradePoint: string) => shown(board, { resultForm: 'points', gradePoint })

describe('a result stated in points', () => {
  // p / max x 100, and the board's factor before that: common practice, no source.
  it.each([['8.37', '10', '83.70'], ['3.4', '4', '85.00'], ['7.9', '9', '87.78'], ['0', '10', '0.00'], ['10', '10', '100.00']])(
    '%s of %s is %s %%',
    (points, max, wanted) => {
      expect(byPoints({ points: { max } }, points)).toBe(wanted)
    },
  )

  it("goes by the board's own factor where it has one: 8.4 x 9.5 is 79.80, not 84.00", () => {
    expect(byPoints({ points: { max: '10', factor: '9.5' } }, '8.4')).toBe('79.80')
  })

  it.each([['10.01', 'above-scale'], ['-3', 'unreadable'], ['nine', 'unreadable'], ['', 'null']])(
    '%s does not fit: %s',
    (points, fault) => {
      expect(byPoints({ points: { max: '10' } }, points)).toBe(`gradePoint: ${fault}`)
    },
  )

  it('needs a scale, and a board that the notice knows', () => {
    expect(byPoints({}, '8')).toBe('gradePoint: no-point-scale')
    expect(shown({ points: { max: '10' } }, { resultForm: 'points', gradePoint: '8', board: 'nowhere' })).toBe('board: unknown-board')
  })
})

describe('a result stated by subject', () => {
  const six = { 'language': '95', 'mathematics': '90', 'physics': '85', 'chemistry': '80', 'geography': '75', 'commerce-studies': '40' }
  const core = ['language', 'mathematics', 'physics', 'chemistry', 'geography']

  // Five core subjects and a sixth beside them: common practice, no source.
  it('counts the named core subjects alone: 85.00; all six where the board is silent: 77.50', () => {
    expect(bySubject({ subjects: { named: core } }, six)).toBe('85.00')
    expect(bySubject({}, six)).toBe('77.50')
  })

  it.each<[object, Record<string, string>, string]>([
    [{ best: 3 }, six, '90.00'],
    [{ best: 3, compulsory: ['commerce-studies'] }, six, '75.00'],
    [{ excluded: ['commerce-studies'] }, six, '85.00'],
    [{ best: 2, excluded: ['language'] }, six, '87.50'],
    // Subjects with totals of their own are weighed by them.
    [{}, { language: '40/50', mathematics: '90/150' }, '65.00'],
    [{ best: 1 }, { language: '40/50', mathematics: '90/150' }, '80.00'],
    // The two best by share, 90 and 81 %, are not the best two together.
    [{ best: 2 }, { language: '90/100', mathematics: '40/50', physics: '81/100' }, '86.67'],
  ])('by rule %j', (subjects, marks, wanted) => {
    expect(bySubject({ subjects }, marks)).toBe(wanted)
  })

  // At least six subjects: common practice, no source.
  it('refuses five subjects where six are needed', () => {
    expect(bySubject({ subjects: { minimum: 6 } }, six)).toBe('77.50')
    expect(bySubject({ subjects: { minimum: 6 } }, Object.fromEntries(Object.entries(six).slice(1)))).toBe('subjects: too-few-subjects')
  })

  it.each<[object, Record<string, string>, string]>([
    [{ grades: [{ grade: 'A', percent: '92.5' }, { grade: 'B', percent: '77.5' }] }, { language: 'A', physics: 'b'.toUpperCase() },
      '85.00'],
    [{ grades: [{ grade: 'A1', points: '10' }, { grade: 'C', points: '6' }], points: { max: '10', factor: '9.5' } }, {
      language: 'A1',
      physics: 'C',
    }, '76.00'],
    [{ grades: [{ grade: 'A', percent: '90' }] }, { language: 'A', physics: '70' }, '80.00'],
    [{ grades: [{ grade: 'A', percent: '90' }] }, { language: 'Z' }, 'subjects: unknown-grade'],
    [{}, { language: 'A' }, 'subjects: no-grade-scale'],
    [{}, { language: '101/100' }, 'subjects: above-total'],
    [{}, { language: '-5/100' }, 'subjects: unreadable'],
    [{}, { language: '5/0' }, 'subjects: zero-total'],
    [{ subjects: { named: core } }, { language: '90' }, 'subjects: subject-missing'],
    [{ subjects: { best: 2 } }, { language: '90' }, 'subjects: too-few-subjects'],
  ])('by %j of %j', (board, marks, wanted) => {
    expect(bySubject(board, marks)).toBe(wanted)
  })

  it('takes no subject twice and no empty table', () => {
    expect(shown({}, { resultForm: 'subjects', subjects: [...rows({ physics: '50' }), ...rows({ physics: '60' })] }))
      .toBe('subjects: subject-twice')
    expect(shown({}, { resultForm: 'subjects', subjects: [] })).toBe('subjects: null')
  })

  it('shows its working line by line', () => {
    const result = qualifyingResult(withBoard({ subjects: { named: core } }), {
      board: 'trial',
      resultForm: 'subjects',
      subjects: rows(six),
    })
    expect(result.found && result.working.map(line => line.code)).toEqual(['subject', 'subject', 'subject', 'subject', 'subject',
      'subjectLeftOut', 'sum', 'percent'])
    expect(result.found && result.working.at(-2)?.parameters).toEqual({ subjects: 5, obtained: '425', total: '500' })
  })

  const marks = fc.uniqueArray(
    fc.record({
      subject: fc.constantFrom('language', 'mathematics', 'physics', 'chemistry', 'geography', 'second-language'),
      obtained: fc.integer({ min: 0, max: 50 }),
      total: fc.integer({ min: 50, max: 200 }),
    }),
    { selector: m => m.subject, minLength: 3 },
  )
  const asRows = (list: { subject: string, obtained: number, total: number }[]) =>
    list.map(m => ({ subject: m.subject, obtained: String(m.obtained), total: String(m.total), grade: '' }))

  it('best of n is the best of all choices of n, whatever the order', () => {
    fc.assert(
      fc.property(marks, fc.integer({ min: 1, max: 3 }), (list, n) => {
        const choices = (rest: typeof list, k: number): (typeof list)[] =>
          k === 0 ? [[]] : rest.flatMap((one, i) => choices(rest.slice(i + 1), k - 1).map(more => [one, ...more]))
        const best = Decimal.max(...choices(list, n).map(c =>
          new Decimal(c.reduce((s, m) =>
            s + m.obtained, 0)).times(100).div(c.reduce((s, m) => s + m.total, 0))
        ))
        const own = (order: typeof list) => {
          const result = qualifyingResult(withBoard({ subjects: { best: n } }), {
            board: 'trial',
            resultForm: 'subjects',
            subjects: asRows(order),
          })
          return result.found ? spellExact(result.percent) : ''
        }
        expect(own(list)).toBe(own([...list].reverse()))
        expect(own(list).replace('…', '')).toBe(best.toDecimalPlaces(6, Decimal.ROUND_DOWN).toString())
      }),
      { numRuns: 200 },
    )
  })
})

describe('a result in total or on an equivalence certificate', () => {
  const total = (marksObtained: string, marksTotal: string) => shown({}, { resultForm: 'total', marksObtained, marksTotal })
  // Two decimals, half up: common practice, no source.
  it.each([['83456', '100000', '83.46'], ['72005', '100000', '72.01'], ['412', '500', '82.40'], ['44996', '100000', '45.00'], ['0', '500',
    '0.00'], ['500', '500', '100.00']])('%s of %s is shown as %s', (obtained, of, wanted) => {
      expect(total(obtained, of)).toBe(wanted)
    })
  it.each([['501', '500', 'marksObtained: above-total'], ['-1', '500', 'marksObtained: unreadable'], ['1', '0', 'marksTotal: zero-total'], [
    '',
    '500',
    'marksObtained: null',
  ], ['4', '', 'marksTotal: null'], ['4', 'x', 'marksTotal: unreadable']])('%s of %s: %s', (obtained, of, wanted) => {
    expect(total(obtained, of)).toBe(wanted)
  })
  it('is taken from the certificate as it stands', () => {
    expect(shown({}, { resultForm: 'certificate', equivalentPercentage: '71.25' })).toBe('71.25')
    expect(shown({}, { resultForm: 'certificate', equivalentPercentage: '100.01' })).toBe('equivalentPercentage: above-total')
  })
})
