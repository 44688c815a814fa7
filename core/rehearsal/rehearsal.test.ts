import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../tests/support/sample'
import { listAnswer, textAnswer } from '../application/answers'
import { sheetFaults } from '../application/sheet'
import { ageOn } from '../calendar/calendar-date'
import { qualifyingResult } from '../marks/result'
import type { Notice } from '../notice/schema'
import { inventPerson, type Spread } from './invent'
import { Random } from '../random'
import { rehearse } from './rehearse'

const notice = sampleNotice()
const today = '2026-11-24'
const spread: Spread = { people: 400, age: { from: 16, most: 21, to: 40 }, marks: { from: 35, most: 60, to: 98 }, options: {}, cities: {} }

describe('invented people', () => {
  it('answer all that is asked of them as it wants to be answered, and are as the spread says', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const { answers, verdicts } = inventPerson(notice, spread, new Random(seed), today)
        expect(sheetFaults(notice, answers, today)).toEqual([])
        const age = ageOn(textAnswer(answers, 'bornOn'), notice.keyDates.ageOn, notice.leapDayBirthday)
        expect([age && age.years >= 16 && age.years <= 40, verdicts.length]).toEqual([true, notice.posts.length])
        // Nobody chooses a post that is shut to them while another is open.
        const shut = new Set(verdicts.filter(v => v.verdict === 'fail').map(v => v.post))
        if (shut.size < notice.posts.length) expect(listAnswer(answers, 'posts').some(post => shut.has(post))).toBe(false)
        const result = textAnswer(answers, 'resultForm') === 'total' ? qualifyingResult(notice, answers) : null
        if (result?.found) expect(result.hundredths >= 3500 && result.hundredths <= 9800).toBe(true)
      }),
      { numRuns: 150 },
    )
  })

  it('take what the spread says as often as it says, and nothing that it rules out', () => {
    const some: Spread = {
      ...spread,
      options: { category: { 'general': 3, 'outer-isles': 1, 'fisher-families': 0, 'service-dependants': 0 } },
      cities: Object.fromEntries(notice.cities.map(city => [city.id, city.id === 'skarnholm' ? 1 : 0])),
    }
    const people = Array.from({ length: 400 }, (_, seed) => inventPerson(notice, some, new Random(seed), today).answers)
    const share = people.filter(answers => textAnswer(answers, 'category') === 'general').length / people.length
    // Three in four; the chance of being off by more than 0.1 with 400 people is under one in ten thousand (binomial).
    expect(Math.abs(share - 0.75)).toBeLessThan(0.1)
    expect(people.every(answers =>
      ['general', 'outer-isles'].includes(textAnswer(answers, 'category')) && listAnswer(answers, 'cities')[0] === 'skarnholm'
    )).toBe(true)
  })
})

describe('a rehearsal', () => {
  const full = rehearse(notice, spread, today)

  it('counts everybody once, the same for the same seed', () => {
    expect(rehearse(notice, spread, today)).toEqual(full)
    expect(rehearse(notice, spread, today, 2)).not.toEqual(full)
    for (const post of full.posts) expect(post.open + post.unsure + post.shut).toBe(full.people)
    expect(full.choices.first + full.choices.other + full.choices.offList + full.choices.none).toBe(full.complete)
    expect(full.fees.byCategory.reduce((sum, one) => sum + one.sum, 0)).toBe(full.fees.total)
    expect(full.cities.reduce((sum, city) => sum + city.placed, 0)).toBe(full.choices.first + full.choices.other + full.choices.offList)
    expect(full.cities.every(city => city.placed <= city.seats)).toBe(true)
  })

  it('counts a late fee for those who come late', () => {
    const { opens, closes } = notice.keyDates
    const half = new Date((Date.parse(opens) + Date.parse(closes)) / 2).toISOString()
    const [plain, late] = [[], [{ from: half, amount: 1000 }]].map(fees =>
      rehearse({ ...notice, fees: { ...notice.fees, late: fees } }, spread, today).fees
    )
    // Of as many as pay, half come in the second half of the days; who of them fills the form whole is drawn, so that a tenth more or less
    // says nothing.
    const share = ((late?.total ?? 0) - (plain?.total ?? 0)) / 1000 / (late?.payers ?? 1)
    expect(share > 0.4 && share < 0.6).toBe(true)
  })

  it('seats people in the sessions of their test papers, of which nobody chooses two that collide', () => {
    const [forenoon] = notice.sessions
    const testPapers = notice.posts.map(({ id, title }) => ({ id, title, sessions: [forenoon?.id ?? ''] }))
    const one = rehearse({ ...notice, testPapers, posts: notice.posts.map(post => ({ ...post, testPapers: [post.id] })) }, spread, today)
    expect(one.faults.map(({ finding }) => finding.code)).not.toContain('sheet.collide')
    expect(one.cities.reduce((n, city) => n + city.placed, 0)).toBeGreaterThan(0)
    // Every paper is held in the forenoon: half of a city's seats stay empty.
    expect(one.cities.every(city => city.placed <= city.seats / 2)).toBe(true)
  })

  it('shows a post that nobody may enter with the clause that shuts it, and a question that nobody can answer', () => {
    const tooOld: Notice = {
      ...notice,
      posts: notice.posts.map((post, i) =>
        i === 0
          ? {
            ...post,
            clauses: [{
              code: 'age',
              clause: '9.9',
              text: 'Not below 90 years.',
              rule: { kind: 'age', minYears: 90, relaxations: [], combine: 'largest' },
            }],
          }
          : post
      ),
    }
    expect(rehearse(tooOld, spread, today).posts[0]).toMatchObject({ open: 0, shut: 400, why: [{ clause: '9.9', n: 400 }] })
    const impossible: Notice = {
      ...notice,
      sections: [...notice.sections, {
        id: 'more',
        title: 'More',
        questions: [{ id: 'when', kind: 'date', label: 'A day', required: true, future: false, notBefore: '2027-05-01' }],
      }],
    }
    expect(rehearse(impossible, spread, today)).toMatchObject({
      complete: 0,
      faults: [{ n: 400, finding: { about: 'when', code: 'sheet.future' } }],
    })
  })

  it('scales cities to the numbers that are expected, and shows which fill', () => {
    const expected = { ...notice, expected: { applicants: 1000, stepFree: 0 } }
    const { cities, scale, complete, choices } = rehearse(expected, {
      ...spread,
      cities: Object.fromEntries(notice.cities.map(city => [city.id, city.id === 'skarnholm' ? 50 : 1])),
    }, today)
    expect(scale).toBeCloseTo(1000 / complete)
    const skarnholm = cities.find(city => city.id === 'skarnholm')
    expect(skarnholm && skarnholm.first > skarnholm.seats && skarnholm.placed <= skarnholm.seats).toBe(true)
    expect(choices.other + choices.offList + choices.none).toBeGreaterThan(0)
    // Kept for nobody, half of the city stays empty.
    const kept = Math.floor((skarnholm?.seats ?? 0) / 2 / notice.sessions.length)
    const never = { all: [{ question: 'gender', in: ['woman'] }, { not: { question: 'gender', in: ['woman'] } }] }
    const keeping: Notice = {
      ...expected,
      allocation: {
        ...notice.allocation,
        kept: [{ title: 'x', when: never, seats: [{ city: 'skarnholm', seats: kept }], unused: 'stay empty' }],
      },
    }
    const [full, half] = [expected, keeping].map(one =>
      rehearse(one, { ...spread, cities: { skarnholm: 1000 } }, today).cities.find(city => city.id === 'skarnholm')
    )
    expect([half?.seats, (half?.placed ?? 0) <= (half?.seats ?? 0) - kept * notice.sessions.length,
      (full?.placed ?? 0) > (half?.placed ?? 0)]).toEqual([full?.seats, true, true])
    let told = 0
    expect(rehearse(notice, spread, today, 1, () => (told += 1) <= 10).people).toBe(10)
  })
})
