import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleNotice, noticeWithRule } from '../../tests/support/sample'
import { conditionHolds, liveAnswers, type Answers } from '../application/answers'
import { evaluatePosts } from '../eligibility/evaluate'
import { feeRange } from '../fees/range'
import { conditionWords } from '../words/en/conditions'
import { ruleWords } from '../words/en/rules'
import { toHaveAtHand } from './at-hand'
import { examplePerson } from './checks/reach'
import { People } from './person'
import type { Rule } from './rules'
import type { Condition } from './schema'

const plain = sampleNotice()
// As in some notices: a charge on top for everybody.
const notice = { ...plain, fees: { ...plain.fees, surcharges: [{ code: 'gateway', title: 'Gateway charge', amount: 1250 }] } }

describe('somebody for whom conditions hold', () => {
  const years = { question: 'serviceYears', from: '5', to: '9' }
  const find = (...wanted: [Condition, boolean][]) =>
    new People(notice, wanted.map(([c]) => c)).find(wanted.map(([condition, holds]) => ({ condition, holds })))

  it('answers what leads to the question as well, and none where it cannot be asked', () => {
    expect(find([years, true])).toEqual({ category: 'service-dependants', serviceYears: '5' })
    expect(find([years, true], [{ question: 'category', in: ['general'] }, true])).toBeNull()
    expect(find([{ question: 'serviceYears', from: '10' }, true], [{ question: 'serviceYears', to: '9' }, true])).toBeNull()
    expect(find([{ question: 'posts', in: ['pilot-cadet'] }, true], [{ question: 'posts', in: ['port-clerk'] }, true])?.posts)
      .toEqual(expect.arrayContaining(['pilot-cadet', 'port-clerk']))
  })

  it('is found exactly when somebody of all possible people is one', () => {
    const options = {
      category: notice.categories.map(c => c.id),
      pwd: ['yes', 'no'],
      pwdDegree: ['below', 'benchmark', ''],
      lowIncome: ['yes', 'no'],
    }
    const everybody = options.category.flatMap(category =>
      options.pwd.flatMap(pwd =>
        options.pwdDegree.flatMap(pwdDegree => options.lowIncome.map(lowIncome => ({ category, pwd, pwdDegree, lowIncome })))
      )
    ) // Whoever declares a disability says its degree; nobody else is asked.
      .filter(person => (person.pwd === 'yes') === (person.pwdDegree !== ''))
    const leaf = fc
      .oneof(...Object.entries(options).map(([question, all]) =>
        fc.subarray(all.filter(o => o !== ''), { minLength: 1 }).map((some): Condition => ({ question, in: some }))
      ))
    const { condition } = fc.letrec<{ condition: Condition }>(tie => ({
      condition: fc.oneof(
        { maxDepth: 3 },
        leaf,
        fc.array(tie('condition'), { minLength: 1, maxLength: 3 }).map((all): Condition => ({ all })),
        fc.array(tie('condition'), { minLength: 1, maxLength: 3 }).map((any): Condition => ({ any })),
        tie('condition').map((not): Condition => ({ not })),
      ),
    }))
    const holds = (person: Answers, wanted: Condition) => conditionHolds(wanted, liveAnswers(notice, person)) === true
    fc.assert(
      fc.property(fc.array(fc.tuple(condition, fc.boolean()), { minLength: 1, maxLength: 4 }), (wanted) => {
        const person = find(...wanted)
        expect(person === null).toBe(!everybody.some(one => wanted.every(([c, is]) => holds(one, c) === is)))
      }),
      { numRuns: 300 },
    )
  })
})

describe('somebody who may enter a post', () => {
  const enter = (rule: Rule) => {
    const trial = noticeWithRule({ kind: 'oneOf', question: 'nationality', values: ['ilmaran'] })
    const post = { id: 'trial', title: 'Trial', testPapers: [], clauses: [{ code: 'trial', clause: '1', text: 'As tried.', rule }] }
    const person = examplePerson(trial, post)
    // The engine itself lets in whoever is named.
    if (person) expect(evaluatePosts({ ...trial, posts: [post] }, person)[0]?.verdict).toBe('pass')
    return person
  }
  const age = (minYears?: number, maxYears?: number): Rule => ({
    kind: 'age',
    ...(minYears === undefined ? {} : { minYears }),
    ...(maxYears === undefined ? {} : { maxYears }),
    relaxations: [],
    combine: 'largest',
  })

  it.each<[string, Rule, boolean]>([
    ['an age of one single year', age(33, 33), true],
    ['two ages that never meet', { kind: 'all', rules: [age(30), age(undefined, 29)] }, false],
    ['an age that a relaxation alone opens', {
      kind: 'all',
      rules: [age(30), {
        kind: 'age',
        maxYears: 28,
        relaxations: [{ title: 'PwD', when: { question: 'pwdDegree', in: ['benchmark'] }, by: '5' }],
        combine: 'largest',
      }],
    }, true],
    ['an answer that is asked of others only', {
      kind: 'all',
      rules: [{ kind: 'oneOf', question: 'category', values: ['general'] }, {
        kind: 'number',
        question: 'serviceYears',
        unit: 'years',
        min: '1',
        relaxations: [],
        combine: 'largest',
      }],
    }, false],
    ['experience of nobody who never worked', {
      kind: 'all',
      rules: [{ kind: 'oneOf', question: 'worked', values: ['no'] }, {
        kind: 'experience',
        question: 'periods',
        from: 'from',
        to: 'to',
        minDays: 10,
        relaxations: [],
        combine: 'largest',
      }],
    }, false],
    ['experience of many years', {
      kind: 'experience',
      question: 'periods',
      from: 'from',
      to: 'to',
      minDays: 7000,
      relaxations: [],
      combine: 'largest',
    }, true],
    ['a rule and its contrary', {
      kind: 'all',
      rules: [{ kind: 'oneOf', question: 'gender', values: ['woman'] }, {
        kind: 'not',
        title: 'no women',
        rule: { kind: 'oneOf', question: 'gender', values: ['woman'] },
      }],
    }, false],
    ['a rule for some, met by others', { kind: 'when', if: { question: 'pwd', in: ['yes'] }, then: age(200), otherwise: age(20) }, true],
    ['marks between two bounds', {
      kind: 'number',
      question: 'gradePoint',
      unit: 'points',
      min: '6.5',
      max: '7.25',
      relaxations: [],
      combine: 'largest',
    }, true],
    ['a percentage of full marks', { kind: 'percentage', min: '100', relaxations: [], combine: 'largest' }, true],
    ['the highest rung in a discipline', { kind: 'qualification', atLeast: 'degree', disciplines: ['navigation'], mostYearsSince: 0 },
      true],
  ])('%s', (_, rule, isThere) => {
    expect(enter(rule) !== null).toBe(isThere)
  })
})

describe('what everybody reads', () => {
  it("the least and the most of the fee, worked out by hand from the demo's schedule", () => {
    // Somebody with a disability of 40 % and above pays nothing; General pays 640.00 and 12.50 for the gateway.
    expect(feeRange(notice)).toEqual({ from: 0, to: 65_250 })
    expect(feeRange({ ...notice, fees: { ...notice.fees, waivers: [] } })).toEqual({ from: 41_250, to: 65_250 })
    // Two halves off at once: 400.00 becomes 200.00, then 100.00, and 12.50 for the gateway; 30.00 more for women raises the most.
    const halves = [{ question: 'lowIncome', in: ['yes'] }, { question: 'pwdDegree', in: ['benchmark'] }].map((when, i) => ({
      code: `half-${i}`,
      title: 'Half',
      when,
      percent: 50,
    }))
    const surcharges = [...notice.fees.surcharges, {
      code: 'more',
      title: 'More',
      when: { question: 'gender', in: ['woman'] },
      amount: 3000,
    }]
    expect(feeRange({ ...notice, fees: { ...notice.fees, severalWaivers: 'in turn', waivers: halves, surcharges } })).toEqual({
      from: 11_250,
      to: 68_250,
    })
  })

  it('what to have at hand, what takes longest first, each with those who need it', () => {
    const list = toHaveAtHand(notice)
    expect(list.slice(0, 3).map(one => [one.title, one.leadDays])).toEqual([['Disability of 40 % and above', 21], ['Outer Isles', 14], [
      'Fisher Families',
      10,
    ]])
    expect(list.find(one => one.title === 'Identity proof')?.when).toBeNull()
    expect(list.map(one => one.title)).toEqual(expect.arrayContaining(['Photograph', 'Signature', 'Category certificate']))
  })

  it('every rule in words that name its bounds, easings and exceptions', () => {
    const [cadet, , technician] = notice.posts
    expect(cadet && ruleWords(notice, cadet.clauses[0]?.rule as Rule))
      .toMatch(/^from 18 to 24 completed years of age, on .*\. Eased by 3 years for Outer Isles \(Category: Outer Isles\),.*; of several the largest counts$/)
    expect(technician && ruleWords(notice, technician.clauses[0]?.rule as Rule))
      .toContain("as many as “Completed years of the parent's service” says and 3 more years")
    expect(technician && ruleWords(notice, technician.clauses[1]?.rule as Rule))
      .toContain('; or (Senior school, year 12 or higher; and Mathematics or Physics with at least 50 %')
    for (const clause of notice.posts.flatMap(post => post.clauses)) {
      expect(ruleWords(notice, clause.rule)).not.toMatch(/undefined|\[object|null/)
    }
    expect(conditionWords(notice, notice.accessibleSeatWhen)).toBe('Step-free seat needed: Yes')
  })
})
