import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleAnswers, sampleNotice, testNow } from '../../tests/support/sample'
import type { Answers } from '../application/answers'
import { assessFee, spellAmount, type FeeReason } from './assess'
import { feeMoment, feeQuestions, waitsForFee } from './order'
import { cheapestOf, costCarried, payingCosts } from './channel'
import { assessmentLines, feeState, isBalanced, matchAfterSlips, receiptLines, slipLines } from './ledger'

const plain = sampleNotice()
// As in some notices: a charge on top for everybody.
const notice = { ...plain, fees: { ...plain.fees, surcharges: [{ code: 'gateway', title: 'Gateway charge', amount: 1250 }] } }
const late = new Date(notice.fees.late[0]?.from ?? '')
const totalOf = (change: Answers, at = testNow) => assessFee(notice, { ...sampleAnswers, ...change }, at)?.total

describe('a schedule by paper', () => {
  // Worked by hand: 640.00 by category; the pilot's post 20.00 of its own, 5.00 of whoever has a low income; from the second post 150.00
  // each, from the third 90.00.
  const fees = {
    ...plain.fees,
    waivers: [],
    surcharges: [],
    posts: [{ post: 'pilot-cadet', when: { question: 'lowIncome', in: ['yes'] }, amount: 500 }, {
      post: 'pilot-cadet',
      when: { not: { question: 'lowIncome', in: ['yes'] } },
      amount: 2000,
    }],
    further: [{ from: 3, amount: 9000 }, { from: 2, amount: 15_000 }],
    late: [{ from: '2026-11-10T00:00:00Z', amount: 1000 }, { from: '2026-11-20T00:00:00Z', amount: 3000 }],
  }
  const all = plain.posts.map(post => post.id)
  const lines = (posts: string[], at = '2026-11-05T00:00:00Z', lowIncome = 'no') =>
    assessFee({ ...plain, fees }, { ...sampleAnswers, lowIncome, posts }, new Date(at))?.items.map(({ code, amount }) =>
      `${code} ${amount}`
    )

  it('adds what each post costs, the tiers of further posts, and the late period that has begun last', () => {
    const other = all.filter(id => id !== 'pilot-cadet')
    expect(lines(other.slice(0, 1))).toEqual(['base 64000'])
    expect(lines(['pilot-cadet'])).toEqual(['base 64000', 'post 2000'])
    expect(lines(['pilot-cadet'], '2026-11-10T00:00:00Z', 'yes')).toEqual(['base 64000', 'post 500', 'late 1000'])
    expect(lines(['pilot-cadet', ...other.slice(0, 1)], '2026-11-09T23:59:59Z')).toEqual(['base 64000', 'post 2000',
      'additional-post 15000'])
    expect(lines([...other.slice(0, 2), 'pilot-cadet', ...other.slice(2, 3)], '2026-11-25T00:00:00Z')).toEqual(['base 64000', 'post 2000',
      'additional-post 15000', 'additional-post 18000', 'late 3000'])
  })

  it('tells which questions a fee hangs on, and lets only those be answered before it is paid', () => {
    const first = { ...plain, fees: { ...fees, order: 'before the form' as const } }
    const drafting = { form: 'drafting', fee: 'due' } as const
    expect([...feeQuestions(first)])
      .toEqual(expect.arrayContaining(['category', 'posts', 'lowIncome', 'certificateName', 'mobile', 'email']))
    expect(['lowIncome', 'qualification', 'photograph'].map(item => waitsForFee(first, drafting, item))).toEqual([false, true, true])
    expect(waitsForFee(first, { ...drafting, fee: 'settled' }, 'qualification')).toBe(false)
    expect(waitsForFee({ ...first, fees: { ...fees, order: 'before submission' } }, drafting, 'qualification')).toBe(false)
    const asked = new Date('2026-11-09T00:00:00Z')
    const now = new Date('2026-11-25T00:00:00Z')
    expect((['due', 'confirming', 'settled'] as const).map(fee => feeMoment({ feeMoment: asked, submittedAt: null, fee }, now))).toEqual([
      now,
      asked,
      asked,
    ])
    expect([feeMoment({ feeMoment: asked, submittedAt: now, fee: 'due' }, now),
      feeMoment({ feeMoment: null, submittedAt: asked, fee: 'due' }, now)]).toEqual([asked, asked])
  })
})

describe('several waivers that fit one person', () => {
  // Worked by hand: of 640.00 and 150.00 a quarter is 197.50, a half of what that leaves 296.25; a half of all 395.00.
  const waivers = [{ code: 'quarter', title: 'A quarter', when: { question: 'lowIncome', in: ['yes'] }, percent: 25 }, {
    code: 'half',
    title: 'A half',
    when: { question: 'category', in: ['general'] },
    percent: 50,
  }]
  const total = (severalWaivers: typeof plain.fees.severalWaivers, lowIncome = 'yes') =>
    assessFee({ ...plain, fees: { ...plain.fees, waivers, severalWaivers } }, { ...sampleAnswers, lowIncome }, testNow)?.total

  it('count as the notice says: in turn, the largest, the first', () => {
    expect([total('in turn'), total('largest'), total('first'), total('one only')]).toEqual([29_625, 39_500, 59_250, 59_250])
    expect([total('in turn', 'no'), total('largest', 'no'), total('first', 'no')]).toEqual([39_500, 39_500, 39_500])
  })
})

describe('who pays for somebody', () => {
  const payers = [{ code: 'fund', title: 'A fund', when: { question: 'lowIncome', in: ['yes'] } }, {
    code: 'second',
    title: 'Another',
    when: { question: 'category', in: ['general'] },
  }]
  const paid = { ...plain, fees: { ...plain.fees, payers } }
  it('is the first whom the notice names for them; the fee is the same', () => {
    const payerOf = (answers: Answers) => assessFee(paid, { ...sampleAnswers, ...answers }, testNow)?.payer?.code
    expect([payerOf({ lowIncome: 'yes' }), payerOf({ lowIncome: 'no' }), payerOf({ lowIncome: 'no', category: 'outer-isles' })]).toEqual([
      'fund',
      'second',
      undefined,
    ])
    expect(assessFee(paid, sampleAnswers, testNow)?.total).toBe(assessFee(plain, sampleAnswers, testNow)?.total)
    expect([...feeQuestions(paid)]).toEqual(expect.arrayContaining(['lowIncome', 'category']))
  })
})

describe('the assessed fee', () => {
  it("is itemised: base by category, further posts, the gateway's charge", () => {
    expect(assessFee(notice, sampleAnswers, testNow)).toMatchObject({
      total: 80_250,
      items: [{ code: 'base', amount: 64_000, because: { code: 'category', category: 'General' } }, {
        code: 'additional-post',
        amount: 15_000,
      }, { code: 'gateway', amount: 1_250 }],
    })
  })

  it.each<[Answers, number]>([
    [{ posts: ['pilot-cadet'] }, 65_250],
    [{ category: 'outer-isles', posts: ['pilot-cadet'] }, 49_250],
    // Half of 400.00 + 150.00, rounded half up, and the charge on top.
    [{ category: 'fisher-families', lowIncome: 'yes' }, 28_750],
    // 40 % and above: nothing due at all, not even the charge. Below 40 %: the full fee. Common practice, no source.
    [{ pwd: 'yes', pwdDegree: 'benchmark', stepFree: 'no' }, 0],
    [{ pwd: 'yes', pwdDegree: 'below', stepFree: 'no' }, 80_250],
  ])('with %j is %i minor units', (change, wanted) => {
    expect(totalOf(change)).toBe(wanted)
  })

  it('forgets the answer to a question that is no longer asked', () => {
    expect(totalOf({ pwd: 'no', pwdDegree: 'benchmark' })).toBe(80_250)
  })

  it('takes the late fee from its first moment on', () => {
    expect(totalOf({}, new Date(late.getTime() - 1))).toBe(80_250)
    expect(totalOf({}, late)).toBe(100_250)
  })

  it('is not told before the category is known', () => {
    expect(assessFee(notice, { ...sampleAnswers, category: '' }, testNow)).toBeNull()
    expect(assessFee(notice, { ...sampleAnswers, category: 'admirals' }, testNow)).toBeNull()
  })

  it('is what the printed schedule says, and never below zero', () => {
    const printed: Record<string, number> = {
      'general': 64_000,
      'outer-isles': 48_000,
      'fisher-families': 40_000,
      'service-dependants': 40_000,
    }
    const option = (id: string) =>
      fc.constantFrom(
        '',
        ...(notice.sections.flatMap(s => s.questions).flatMap(q => q.id === id && q.kind === 'choice' ? q.options.map(o => o.id) : [])),
      )
    const answers = fc.record({
      category: option('category'),
      lowIncome: option('lowIncome'),
      pwd: option('pwd'),
      pwdDegree: option('pwdDegree'),
      posts: fc.subarray(['pilot-cadet', 'lighthouse-keeper']),
    })
    fc.assert(fc.property(answers, fc.boolean(), (given, isLate) => {
      const fee = assessFee(notice, given, isLate ? late : testNow)
      expect(fee === null).toBe(given.category === '')
      expect(fee?.total ?? 0).toBeGreaterThanOrEqual(0)
      // Without anything that is waived it is what the printed schedule of the demo says, added up by hand.
      const isWaived = given.lowIncome === 'yes' || given.pwd === 'yes'
      if (fee && !isWaived) {
        expect(fee.total)
          .toBe((printed[given.category] ?? 0) + 15_000 * Math.max(0, given.posts.length - 1) + (isLate ? 20_000 : 0) + 1_250)
      }
    }))
  })
})

describe('ways of paying', () => {
  const channels = plain.fees.channels

  // Worked by hand: 1.2 % of 790.00 is 9.48, 15 % of that 1.422; 5.00 and its 15 % are 5.75; 1.2 % of 0.42 is 0.00504, half up 0.01.
  it('cost what the notice says, rounded half up, the tax of the rounded charge; what the office bears costs nothing', () => {
    const costs = payingCosts({ channels }, 79_000)
    expect(costs).toEqual([{ way: 'card', charge: 948, tax: 142 }, { way: 'net banking', charge: 500, tax: 75 }, {
      way: 'wallet',
      charge: 0,
      tax: 0,
    }])
    expect(payingCosts({ channels }, 42)[0]).toEqual({ way: 'card', charge: 1, tax: 0 })
    expect(cheapestOf(costs)?.way).toBe('wallet')
    expect([cheapestOf([]), cheapestOf(costs.slice(0, 2))?.way]).toEqual([null, 'net banking'])
  })

  it('take nothing before the fee is whole, never more than was said, and nothing where nothing was due', () => {
    const amount = fc.integer({ min: 0, max: 200_000 })
    fc.assert(fc.property(amount, amount, fc.integer({ min: 0, max: 3000 }), fc.integer({ min: 0, max: 900 }), (came, due, charge, tax) => {
      const carried = costCarried({ way: 'card', charge, tax }, came, due)
      const taken = carried.charge + carried.tax
      expect(taken).toBe(due > 0 ? Math.min(charge + tax, Math.max(0, came - due)) : 0)
      expect(Math.min(carried.charge, carried.tax)).toBeGreaterThanOrEqual(0)
      if (taken === charge + tax) expect(carried.tax).toBe(tax)
    }))
  })

  it('stand as lines of their own behind everything else, on the accounts of their clause', () => {
    const channelCharges = [{ order: 'one', way: 'card' as const, charge: 948, tax: 142 }]
    const before = assessFee(plain, sampleAnswers, late)
    const after = assessFee(plain, sampleAnswers, late, { correctionCharges: [], feeReliefs: [], channelCharges })
    expect(after?.items.slice(-2)).toMatchObject([{ code: 'way', amount: 948 }, { code: 'way-tax', amount: 142 }])
    expect(assessmentLines(before?.items ?? [], after?.items ?? [])).toEqual([{ account: 'receivable', amount: 1090 }, {
      account: 'surcharges',
      amount: -948,
    }, { account: 'tax payable', amount: -142 }])
  })

  it('a due that ends unpaid ends by clause, the last one first', () => {
    const left = assessFee(plain, sampleAnswers, late, {
      correctionCharges: [{ correction: 'c', title: 'Name', amount: 5000 }],
      feeReliefs: [{ kind: 'given up', amount: 30_000 }],
      channelCharges: [],
    })
    const lines = assessmentLines([], left?.items ?? [])
    expect(lines).toEqual([{ account: 'receivable', amount: 74_000 }, { account: 'fee income', amount: -74_000 }])
    expect(left?.items.filter(item => item.code === 'given-up').map(item => item.amount)).toEqual([-5000, -20_000, -5000])
  })
})

describe('amounts and the ledger', () => {
  it("spells minor units by the currency's exponent", () => {
    expect(spellAmount(123_456_789, { code: 'IMK', exponent: 2 })).toBe('IMK 1,234,567.89')
    expect(spellAmount(5, { code: 'IMK', exponent: 2 })).toBe('IMK 0.05')
    expect(spellAmount(-1200, { code: 'IMK', exponent: 0 })).toBe('−IMK 1,200')
  })

  it('balances every transaction that it makes, and knows one that does not', () => {
    fc.assert(fc.property(fc.integer({ min: -1e8, max: 1e8 }), n => isBalanced(receiptLines(n))))
    const because = fc.constantFrom<FeeReason | string>(
      'an older sentence',
      { code: 'late' },
      { code: 'way-tax', way: 'card' },
      { code: 'relief', kind: 'waived' },
      { code: 'relief', kind: 'given up' },
      { code: 'relief', kind: 'given up', of: 'late fee income' },
    )
    const items = fc.array(fc.record({ because, amount: fc.integer({ min: -1e6, max: 1e6 }) }), { maxLength: 6 })
    fc.assert(fc.property(items, items, (before, after) => {
      const lines = assessmentLines(before, after)
      const due = (list: typeof before) => list.reduce((sum, item) => sum + item.amount, 0)
      expect(lines.find(line => line.account === 'receivable')?.amount ?? 0).toBe(due(after) - due(before))
      expect(lines.length === 0 || isBalanced(lines)).toBe(true)
    }))
    expect(isBalanced([{ account: 'receivable', amount: 1 }])).toBe(false)
    expect(isBalanced([{ account: 'receivable', amount: 1 }, { account: 'fee income', amount: -2 }])).toBe(false)
    expect(isBalanced([{ account: 'receivable', amount: 0.5 }, { account: 'fee income', amount: -0.5 }])).toBe(false)
  })

  it.each([
    [null, 0, false, 'not assessed'],
    [null, 5, false, 'refund due'],
    [0, 0, false, 'nothing due'],
    [100, 0, false, 'due'],
    [100, 0, true, 'confirming'],
    [100, 40, false, 'due'],
    [100, 100, false, 'settled'],
    [100, 100, true, 'settled'],
    [100, 200, false, 'refund due'],
    [0, 10, true, 'refund due'],
  ] as const)('stands, assessed %s and received %s with a payment under way %s, at %s', (assessed, received, underWay, wanted) => {
    expect(feeState(assessed, received, underWay)).toBe(wanted)
  })
})

describe('money of deposit slips', () => {
  const balance = (lines: { account: string, amount: number }[], account: string) =>
    lines.filter(line => line.account === account).reduce((sum, line) => sum + line.amount, 0)

  // Common accounting practice, no source: what was taken for good by eye is in transit until the bank shows it.
  it('pays a due once, whether it is seen by eye first or on a statement, and in whatever parts it comes', () => {
    fc.assert(fc.property(
      fc.integer({ min: 1, max: 100_000 }),
      fc.array(fc.integer({ min: 1, max: 60_000 }), { minLength: 1, maxLength: 5 }),
      (slip, parts) => {
        const all = [...slipLines(slip)]
        for (const part of parts) {
          const lines = matchAfterSlips(part, balance(all, 'slips in transit'))
          expect(isBalanced(lines)).toBe(true)
          all.push(...lines)
        }
        const came = parts.reduce((sum, part) => sum + part, 0)
        expect(balance(all, 'slips in transit')).toBe(Math.max(0, slip - came))
        expect(-balance(all, 'receivable')).toBe(Math.max(slip, came))
        expect(balance(all, 'unmatched receipts')).toBe(came)
      },
    ))
  })
})
