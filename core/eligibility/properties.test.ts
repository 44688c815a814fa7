import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../tests/support/sample'
import { anySheet } from '../../tests/support/sheets'
import { answersThatCount, claimLock, heldClaims, weighClaims } from './claims'
import { smallestChange, withChange } from './change'
import { evaluatePosts } from './evaluate'
import { rankOf } from './qualification'
import { unionDays } from './stated'
import { conditionHolds, liveSheet, type Answers } from '../application/answers'
import { parseDecimal } from '../marks/decimal'
import type { Clause } from '../notice/rules'
import type { Notice } from '../notice/schema'

const notice = sampleNotice()
const sheets = anySheet(notice)
const verdictsOf = (answers: Answers, by = notice) => evaluatePosts(by, answers).map(v => v.verdict)
const rank = { fail: 0, unsure: 1, pass: 2 }
const neverWorse = (before: Answers, after: Answers, by: Notice = notice) => {
  const [one, other] = [verdictsOf(before), verdictsOf(after, by)]
  one.forEach((verdict, i) => expect(rank[other[i] ?? 'fail']).toBeGreaterThanOrEqual(rank[verdict]))
}

describe('the engine', () => {
  it('judges every sheet without a throw, and names a clause for each verdict other than pass', () => {
    fc.assert(
      fc.property(sheets, (answers) => {
        for (const verdict of evaluatePosts(notice, answers)) {
          const named = verdict.findings.filter(f => f.verdict === verdict.verdict && f.origin?.clause)
          expect(verdict.verdict === 'pass' || named.length > 0).toBe(true)
          const open = verdict.findings.filter(f => f.code === 'eligibility.missing' || f.code === 'eligibility.unreadable')
          expect(open.every(f => f.verdict === 'unsure' && f.parameters.questionId !== '')).toBe(true)
        }
      }),
      { numRuns: 500 },
    )
  })

  it('gives byte-equal results for equal facts, whatever the order of the answers', () => {
    fc.assert(
      fc.property(sheets, (answers) => {
        const turned = Object.fromEntries(Object.entries(answers).reverse())
        expect(JSON.stringify(evaluatePosts(notice, turned))).toBe(JSON.stringify(evaluatePosts(notice, answers)))
        expect(JSON.parse(JSON.stringify(evaluatePosts(notice, answers)))).toEqual(evaluatePosts(notice, answers))
      }),
      { numRuns: 200 },
    )
  })

  it('does not care for the order of clauses, rules and relaxations', () => {
    const turnRule = (clause: Clause): Clause =>
      JSON.parse(JSON.stringify(clause), (key, value) => key === 'rules' || key === 'relaxations' ? [...value].reverse() : value) as Clause
    const turned = { ...notice, posts: notice.posts.map(p => ({ ...p, clauses: p.clauses.map(turnRule).reverse() })) }
    fc.assert(
      fc.property(sheets, (answers) => {
        expect(verdictsOf(answers, turned)).toEqual(verdictsOf(answers))
      }),
      { numRuns: 300 },
    )
  })

  it('never turns anybody down for one more relaxation', () => {
    const eased = {
      ...notice,
      posts: notice.posts.map(p => ({
        ...p,
        clauses: p.clauses.map(c =>
          'relaxations' in c.rule
            ? { ...c, rule: { ...c.rule, cap: undefined, relaxations: [...c.rule.relaxations, { title: 'all', by: '2' }] } }
            : c
        ),
      })),
    }
    fc.assert(
      fc.property(sheets, (answers) => {
        neverWorse(answers, answers, eased as Notice)
      }),
      { numRuns: 300 },
    )
  })

  it('never turns anybody down for a better mark, point or qualification', () => {
    const more = (text: unknown, max: number) =>
      parseDecimal(String(text)) && Number(text) < max ? String(Math.min(max, Number(text) + 1)) : text
    fc.assert(
      fc.property(sheets, fc.nat(), (answers, pick) => {
        const better: Answers = { ...answers }
        if (typeof answers.marksObtained === 'string') {
          better.marksObtained = String(more(answers.marksObtained, Number(answers.marksTotal)))
        }
        if (typeof answers.gradePoint === 'string') better.gradePoint = String(more(answers.gradePoint, 10))
        if (Array.isArray(answers.subjects)) {
          better.subjects = answers.subjects.map((row, i) =>
            typeof row === 'string' || i !== pick % 6 || row.obtained === ''
              ? row
              : { ...row, obtained: String(more(row.obtained, Number(row.total))) }
          ) as Answers[string]
        }
        // A total that is missing or wrong gives no percentage to compare.
        if (Number.isNaN(Number(answers.marksTotal)) || String(better.marksObtained) === 'NaN') return
        neverWorse(answers, better)
        if (rankOf(notice, String(answers.qualification)) > 0 && !liveSheet(notice, answers).closed.has('discipline')) {
          neverWorse(answers, { ...answers, qualification: 'degree' })
        }
      }),
      { numRuns: 500 },
    )
  })
})

describe('the smallest change', () => {
  it('turns the verdict, and a step less does not', () => {
    let tried = 0
    fc.assert(
      fc.property(sheets, (answers) => {
        for (const verdict of evaluatePosts(notice, answers)) {
          const change = verdict.verdict === 'fail' ? smallestChange(notice, answers, verdict) : null
          if (!change) continue
          tried += 1
          const refusing = verdict.findings.find(f => f.verdict === 'fail')?.origin?.rule
          const tryWith = (answer: typeof change.answer) =>
            evaluatePosts(notice, withChange(answers, { question: change.question, answer })).find(v => v.post === change.post)
          const after = (answer: typeof change.answer) => tryWith(answer)?.findings.find(f => f.origin?.rule === refusing)?.verdict
          expect(tryWith(change.answer)?.verdict).not.toBe('fail')
          expect(after(change.answer)).toBe('pass')
          if (change.unit === 'days' && change.question === 'bornOn') {
            const nearer =
              new Date(Date.parse(String(change.answer)) + (String(change.answer) > String(answers.bornOn) ? -1 : 1) * 86_400_000)
                .toISOString().slice(0, 10)
            expect(after(nearer)).not.toBe('pass')
          }
          if (change.question === 'marksObtained') {
            const fine = 10 ** (String(answers.marksObtained).split('.')[1]?.length ?? 0)
            expect(after(String((Math.round(Number(change.answer) * fine) - 1) / fine))).not.toBe('pass')
          }
        }
      }),
      { numRuns: 3000 },
    )
    expect(tried).toBeGreaterThan(100)
  })

  it('is none where several clauses refuse, or nothing does', () => {
    const sheet = { bornOn: '1960-01-01', nationality: 'foreign', qualification: 'year-10' }
    const [cadet] = evaluatePosts(notice, sheet)
    expect(cadet && smallestChange(notice, sheet, cadet)).toBeNull()
  })
})

describe('claims', () => {
  it('can be ruled on between submission and a published seat, by one rule for screen and service', () => {
    const waiting = { form: 'submitted', scrutiny: 'waiting', placement: 'unplaced' } as const
    expect([waiting, { ...waiting, scrutiny: 'accepted', placement: 'placed' } as const].map(claimLock)).toEqual([null, null])
    expect(([{ form: 'drafting' }, { form: 'correcting' }, { form: 'withdrawn' }, { scrutiny: 'refused' }, { placement: 'published' }, {
      placement: 'moved',
    }] as const).map(change => claimLock({ ...waiting, ...change }))).toEqual(['form', 'form', 'form', 'refused', 'published', 'published'])
  })

  it('found false, count as the notice says, and what was typed stays', () => {
    fc.assert(
      fc.property(sheets, (answers) => {
        const before = JSON.stringify(answers)
        const all = heldClaims(notice, answers)
        const counted = answersThatCount(notice, answers, all.map(c => c.id))
        const live = liveSheet(notice, counted)
        expect(all.every(c => conditionHolds(c.when, live) === false)).toBe(true)
        expect(JSON.stringify(answers)).toBe(before)
        expect(answersThatCount(notice, answers, [])).toEqual(answers)
      }),
      { numRuns: 200 },
    )
  })

  it('never gain a verdict or save a fee by being found false', () => {
    fc.assert(
      fc.property(sheets, (answers) => {
        for (const weight of weighClaims(notice, answers, [], new Date('2026-11-24T12:00:00Z'))) {
          expect(weight.fee).toBeGreaterThanOrEqual(0)
          // The disability clause may open a post to somebody who no longer claims one; no other claim does.
          if (weight.claim !== 'pwd') expect(weight.posts.every(p => rank[p.without] < rank[p.now])).toBe(true)
        }
      }),
      { numRuns: 200 },
    )
  })
})

describe('days of experience', () => {
  it('are the days that at least one period covers', () => {
    const period = fc.tuple(fc.integer({ min: 0, max: 300 }), fc.integer({ min: 0, max: 90 })).map(([from, length]) => ({
      from,
      to: from + length,
    }))
    fc.assert(fc.property(fc.array(period, { maxLength: 8 }), (periods) => {
      const days = new Set(periods.flatMap(({ from, to }) => Array.from({ length: to - from + 1 }, (_, i) => from + i)))
      expect(unionDays(periods)).toBe(days.size)
    }))
  })
})
