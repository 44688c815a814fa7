import fc from 'fast-check'
import type { Answer, Answers } from '../../core/application/answers'
import type { Column } from '../../core/notice/questions'
import type { Notice, Question } from '../../core/notice/schema'

/** Any sheet of a notice: mostly answers that could be meant, some missing, some nonsense. */
export function anySheet(notice: Notice): fc.Arbitrary<Answers> {
  const fields = Object.fromEntries(notice.sections.flatMap(s => s.questions).map(question => [question.id, answerTo(notice, question)]))
  return fc.record(fields, { requiredKeys: [] }) as fc.Arbitrary<Answers>
}

const nonsense = fc.constantFrom('', ' ', 'perhaps', '-1', '١٢', '999999999999999999', '2005-02-30', 'null', '<b>')
const day = (from: number, to: number) =>
  fc.date({ min: new Date(Date.UTC(from, 0, 1)), max: new Date(Date.UTC(to, 11, 31)), noInvalidDate: true }).map(date =>
    date.toISOString().slice(0, 10)
  )

function answerTo(notice: Notice, question: Question): fc.Arbitrary<Answer> {
  return fc.oneof({ weight: 14, arbitrary: meant(notice, question) }, { weight: 1, arbitrary: nonsense })
}

function meant(notice: Notice, question: Question): fc.Arbitrary<Answer> {
  switch (question.kind) {
    case 'choice':
      return fc.constantFrom(...question.options.map(o => o.id))
    case 'date':
      return question.future ? day(2026, 2028) : day(1980, 2012)
    case 'number':
      return fc.integer({ min: question.min, max: Math.min(question.max, question.min + 70) }).map(String)
    case 'marks':
      return fc.integer({ min: 0, max: 10_000 }).map(hundredths => String(hundredths / 100))
    case 'table':
      return fc.array(fc.record(Object.fromEntries(question.columns.map(c => [c.id, cellOf(c)]))), { minLength: 0, maxLength: 6 })
    case 'posts':
      return fc.subarray(notice.posts.map(p => p.id))
    case 'cities':
      return fc.subarray(notice.cities.slice(0, 6).map(c => c.id))
    default:
      return fc.string({ maxLength: 12 })
  }
}

function cellOf(column: Column): fc.Arbitrary<string> {
  switch (column.kind) {
    case 'choice':
      return fc.constantFrom(...column.options.map(o => o.id))
    case 'date':
      return fc.oneof({ weight: 9, arbitrary: day(2015, 2027) }, { weight: 1, arbitrary: fc.constant('') })
    case 'marks':
      return fc.constantFrom('35', '49.99', '50', '72', '88.5', '100', '')
    case 'text':
      return fc.constantFrom('', '', 'A1', 'B')
  }
}
