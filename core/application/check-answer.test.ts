import { describe, expect, it } from 'vitest'
import { sampleAnswers, sampleNotice } from '../../tests/support/sample'
import { findingWords } from '../words/en/findings'
import { rowsAnswer, type Answers } from './answers'
import { checkAnswer } from './check-answer'
import { sheetFaults } from './sheet'

const notice = sampleNotice()
const faultsOf = (change: Answers) =>
  sheetFaults(notice, { ...sampleAnswers, ...change }, '2026-11-24').map(f => `${f.about} ${f.code}: ${findingWords(f).title}`)
const subjects = (...rows: Record<string, string>[]): Answers => ({ resultForm: 'subjects', subjects: rows })
const worked = (...rows: Record<string, string>[]): Answers => ({ worked: 'yes', periods: rows })
const good = { subject: 'physics', obtained: '88', total: '100', grade: '' }

describe('a table of the sheet', () => {
  it('is good with complete rows, a grade in place of marks, and a period that has not ended', () => {
    expect(faultsOf(subjects(good, { subject: 'mathematics', obtained: '', total: '', grade: 'A1' }))).toEqual([])
    expect(faultsOf(worked({ employer: 'Ferry', from: '2024-01-01', to: '' }))).toEqual([])
  })

  it.each<[Answers, string]>([
    [subjects({ ...good, subject: '' }), 'subjects sheet.missing: Subjects, row 1, Subject is missing'],
    [subjects(good, { ...good, subject: 'sailing' }), "subjects sheet.option: Subjects, row 2, Subject: not one of the notice's"],
    [subjects({ ...good, obtained: '101' }), 'subjects sheet.marksAbove: Subjects, row 1, Marks is above the total of 100'],
    [subjects({ ...good, obtained: '-5' }), 'subjects sheet.decimal: Subjects, row 1, Marks is not a number'],
    [subjects({ ...good, grade: 'EXCELLENT' }), 'subjects sheet.length: Subjects, row 1, or grade is too long'],
    [worked({ employer: 'Ferry', from: '2024-02-30', to: '' }),
      'periods sheet.date: Periods of work, row 1, From is not a day that exists'],
    [worked({ employer: 'Ferry', from: '2027-02-01', to: '' }), 'periods sheet.future: Periods of work, row 1, From lies in the future'],
    [worked({ employer: 'Ferry', from: '2024-02-01', to: '2023-12-31' }),
      'periods sheet.dateBefore: Periods of work, row 1, To is too early'],
    [worked({ employer: '', from: '2024-02-01', to: '' }), 'periods sheet.missing: Periods of work, row 1, Where is missing'],
    [worked({ employer: ' ', from: '', to: '' }), 'periods sheet.missing: Periods of work is missing'],
    [worked(...Array.from({ length: 16 }, () => ({ employer: 'Ferry', from: '2024-01-01', to: '' }))),
      'periods sheet.rows: Periods of work: 1 to 15 rows are allowed'],
    [{ worked: 'yes', periods: 'all my life' }, 'periods sheet.rows: Periods of work: 1 to 15 rows are allowed'],
  ])('with %j says: %s', (change, wanted) => {
    expect(faultsOf(change)).toEqual([wanted])
  })

  it('leaves out rows without content and blanks around cells, and no other', () => {
    const rows = [{ employer: ' Ferry ', from: '2024-01-01', to: '' }, { employer: '', from: ' ', to: '' }, {
      employer: '',
      from: '2025-01-01',
      to: '',
    }]
    expect(rowsAnswer({ periods: rows }, 'periods')).toEqual([{ employer: 'Ferry', from: '2024-01-01', to: '' }, {
      employer: '',
      from: '2025-01-01',
      to: '',
    }])
    expect(rows[0]?.employer).toBe(' Ferry ')
  })

  it('may lie in the future where the notice says so', () => {
    expect(faultsOf({ resultAwaited: 'yes', resultBy: '2027-01-15' })).toEqual([])
    expect(faultsOf({ resultAwaited: 'yes', resultBy: '' })).toEqual(['resultBy sheet.missing: Result expected by is missing'])
  })

  it('takes names of any script and says of emoji and hidden characters that they are none', () => {
    const question = notice.sections.flatMap(s => s.questions).find(q => q.id === 'certificateName')
    if (!question) throw new Error('the notice asks for no name')
    const faults = (name: string) =>
      checkAnswer(question, { notice, answers: { certificateName: name }, today: '2026-11-24' }).map(f => f.code)
    for (const good of ['Tavirel Osk-Anundé', "O'Marra", 'कामिशा अर्वेणी', 'नश\u200dरी', 'نورة السالم', '李 明', 'Ng']) {
      expect([good, faults(good)]).toEqual([good, []])
    }
    for (const bad of ['Tavirel 😀', 'Tavi\u0007rel', 'Tavirel\u202e', '\ue000Tav', 'Tavirel ★']) {
      expect([bad, faults(bad)]).toEqual([bad, ['sheet.name']])
    }
  })
})
