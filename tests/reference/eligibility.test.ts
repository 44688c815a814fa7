import { Decimal } from 'decimal.js'
import { DateTime } from 'luxon'
import { describe, expect, it } from 'vitest'
import { makePerson } from '../../demo/people'
import { Random } from '../../demo/random'
import { rowsAnswer, textAnswer, type Answers, type Row } from '../../core/application/answers'
import { evaluatePosts } from '../../core/eligibility/evaluate'
import type { Verdict } from '../../core/finding/finding'
import { sampleNotice } from '../support/sample'

/**
 * The clauses of the demo's notice once more, written out plainly from their text with luxon and decimal.js and nothing of
 * ours, against the engine that reads them as data. Every sheet is complete, so that hardly any verdict is open.
 */
const notice = sampleNotice()
const on = DateTime.fromISO(notice.keyDates.ageOn, { zone: 'utc' })
const is = (sheet: Answers, question: string, ...values: string[]) => values.includes(textAnswer(sheet, question))
const number = (sheet: Answers, question: string) => Number(textAnswer(sheet, question))
const isPwd = (sheet: Answers) => is(sheet, 'pwd', 'yes') && is(sheet, 'pwdDegree', 'benchmark')

// By the notice's convention somebody born on 29 February has their birthday on 1 March in common years.
function birthday(born: string, years: number): DateTime {
  const day = DateTime.fromISO(born, { zone: 'utc' }).plus({ years })
  return born.endsWith('-02-29') && !day.isInLeapYear ? day.plus({ days: 1 }) : day
}
const ageFits = (sheet: Answers, least: number, most: number) =>
  birthday(textAnswer(sheet, 'bornOn'), least) <= on && birthday(textAnswer(sheet, 'bornOn'), most) >= on

function percent(sheet: Answers): Decimal {
  if (is(sheet, 'resultForm', 'total')) {
    return new Decimal(textAnswer(sheet, 'marksObtained')).times(100).div(textAnswer(sheet, 'marksTotal'))
  }
  if (is(sheet, 'resultForm', 'points')) return new Decimal(textAnswer(sheet, 'gradePoint')).times(10)
  const rows = rowsAnswer(sheet, 'subjects')
  const share = (list: Row[]) =>
    list.reduce((sum, row) => sum.plus(row.obtained ?? 0), new Decimal(0)).times(100).div(list.reduce((sum, row) =>
      sum.plus(row.total ?? 0), new Decimal(0)))
  if (is(sheet, 'board', 'lohn')) {
    return share(rows.filter(row => ['language', 'second-language', 'mathematics', 'physics', 'geography'].includes(row.subject ?? '')))
  }
  // Federal: the best five with the first language, physical training never.
  const others = rows.filter(row => row.subject !== 'language' && row.subject !== 'physical-training')
  const fours = (list: Row[], n: number): Row[][] =>
    n === 0 ? [[]] : list.flatMap((row, i) => fours(list.slice(i + 1), n - 1).map(rest => [row, ...rest]))
  return Decimal.max(...fours(others, 4).map(four => share([...rows.filter(row => row.subject === 'language'), ...four])))
}

function daysWorked(sheet: Answers): number {
  const days = new Set<string>()
  for (const row of is(sheet, 'worked', 'yes') ? rowsAnswer(sheet, 'periods') : []) {
    const end = DateTime.fromISO(row.to || notice.keyDates.ageOn, { zone: 'utc' })
    for (let day = DateTime.fromISO(row.from ?? '', { zone: 'utc' }); day <= end && day <= on; day = day.plus({ days: 1 })) {
      days.add(day.toISODate() ?? '')
    }
  }
  return days.size
}

const worst = (verdicts: Verdict[]): Verdict => verdicts.includes('fail') ? 'fail' : verdicts.includes('unsure') ? 'unsure' : 'pass'
const say = (...holds: boolean[]): Verdict => holds.every(Boolean) ? 'pass' : 'fail'

function training(sheet: Answers): Verdict {
  const trained = is(sheet, 'qualification', 'diploma', 'degree') && is(sheet, 'discipline', 'electrical', 'radio')
    && on.year - number(sheet, 'passedIn') <= 10
  if (trained) return 'pass'
  const bySubject = is(sheet, 'resultForm', 'subjects')
  const wanted = rowsAnswer(sheet, 'subjects').some(row =>
    ['mathematics', 'physics'].includes(row.subject ?? '') && new Decimal(row.obtained ?? 0).times(100).div(row.total ?? 1).gte(50)
  )
  return worst([say(!is(sheet, 'qualification', 'year-10')), bySubject ? say(wanted) : 'unsure', say(daysWorked(sheet) >= 365)])
}

/** The four verdicts, in the notice's order. */
function byHand(sheet: Answers): Verdict[] {
  const own = percent(sheet)
  const category = (...ids: string[]) => is(sheet, 'category', ...ids)
  const pwd = isPwd(sheet)
  const of = (amount: number, holds: boolean) => holds ? amount : 0
  const senior = !is(sheet, 'qualification', 'year-10')
  const ilmaran = is(sheet, 'nationality', 'ilmaran')
  const resident = is(sheet, 'nationality', 'ilmaran', 'resident')
  return [
    say(
      ageFits(sheet, 18, 24 + Math.max(of(3, category('outer-isles', 'fisher-families')), of(5, pwd))),
      senior,
      own.gte(60 - of(5, category('outer-isles') || pwd)),
      ilmaran,
      number(sheet, 'attempts') <= 3 + of(2, pwd),
      !is(sheet, 'pwd', 'yes') || is(sheet, 'pwdKind', 'movement', 'other-kind'),
    ),
    say(
      ageFits(sheet, 21, 35 + Math.max(of(5, category('outer-isles')), of(3, category('service-dependants')), of(10, pwd))),
      own.gte(45 - of(5, category('outer-isles', 'fisher-families') || pwd)),
      resident,
    ),
    worst([
      say(ageFits(
        sheet,
        18,
        30
          + Math.min(
            12,
            of(3, category('outer-isles')) + of(5, pwd) + of(number(sheet, 'serviceYears') + 3, category('service-dependants')),
          ),
      )),
      training(sheet),
      say(own.gte(50 - of(5, pwd)), ilmaran, number(sheet, 'attempts') <= 4 + of(2, pwd)),
    ]),
    say(
      ageFits(sheet, 18, 40 + of(10, pwd)),
      senior,
      own.gte(45 - of(5, category('outer-isles', 'fisher-families', 'service-dependants') || pwd)),
      resident,
      is(sheet, 'residence', 'birth') || number(sheet, 'residenceYears') >= 5,
    ),
  ]
}

/** A complete sheet with the facts that decide pushed near and over the bounds. */
function pushed(i: number): Answers {
  const random = new Random(i * 7 + 3)
  const sheet = makePerson(new Random(i + 1), notice, i).answers
  if (random.chance(0.5)) {
    sheet.bornOn = birthday(notice.keyDates.ageOn, -random.pick([18, 21, 24, 27, 29, 30, 33, 35, 38, 40, 42, 45, 50])).plus({
      days: random.whole(-2, 2),
    }).toISODate() ?? ''
  }
  if (random.chance(0.1)) sheet.bornOn = random.pick(['2004-02-29', '2008-02-29', '1996-02-29', '1988-02-29'])
  if (is(sheet, 'resultForm', 'total') && random.chance(0.5)) {
    sheet.marksObtained = random.pick(['199.99', '200', '224.99', '225', '249.99', '250', '274.99', '275', '299.99', '300'])
  }
  if (is(sheet, 'resultForm', 'points') && random.chance(0.5)) {
    sheet.gradePoint = random.pick(['3.99', '4', '4.49', '4.5', '4.99', '5', '5.49', '5.5', '5.99', '6'])
  }
  if (random.chance(0.3)) sheet.attempts = String(random.whole(2, 7))
  if (random.chance(0.1)) sheet.nationality = random.pick(['ilmaran', 'resident', 'foreign'])
  if (is(sheet, 'pwd', 'yes') && random.chance(0.5)) sheet.pwdKind = random.pick(['sight', 'hearing', 'movement', 'other-kind'])
  return sheet
}

describe('the engine against the clauses written out by hand', () => {
  it('gives the same verdict on every post for 4,000 people, many of them at a bound', () => {
    const met = { pass: 0, unsure: 0, fail: 0 }
    for (let i = 0; i < 4000; i += 1) {
      const sheet = pushed(i)
      const verdicts = evaluatePosts(notice, sheet).map(v => v.verdict)
      expect([i, ...verdicts]).toEqual([i, ...byHand(sheet)])
      for (const verdict of verdicts) met[verdict] += 1
    }
    expect(Math.min(met.pass, met.fail)).toBeGreaterThan(4000)
  })
})
