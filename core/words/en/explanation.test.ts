import { describe, expect, it } from 'vitest'
import { noticeWithRule, sampleAnswers, sampleNotice } from '../../../tests/support/sample'
import { anySheet } from '../../../tests/support/sheets'
import fc from 'fast-check'
import { smallestChange } from '../../eligibility/change'
import { evaluatePosts } from '../../eligibility/evaluate'
import type { Finding } from '../../finding/finding'
import { changeWords, explanation } from './explanation'
import { findingWords } from './findings'
import { refusalOrder } from './order'

const notice = sampleNotice()

describe('the words of eligibility', () => {
  it('leave no finding without a title, and no gap in a sentence', () => {
    const all = (finding: Finding): Finding[] => [finding, ...(finding.parts ?? []).flatMap(all)]
    fc.assert(
      fc.property(anySheet(notice), (answers) => {
        for (const finding of evaluatePosts(notice, answers).flatMap(v => v.findings).flatMap(all)) {
          const words = findingWords(finding)
          expect(words.title).not.toBe(finding.code)
          expect(Object.values(words).join(' ')).not.toMatch(/undefined|NaN|\[object/)
        }
      }),
      { numRuns: 300 },
    )
  })

  it('explain one person in full: value, bound, relaxation, working, near miss and proof', () => {
    const text = explanation(notice, 'HL27-1', {
      ...sampleAnswers,
      category: 'outer-isles',
      islesCertificate: 'OI-1',
      marksObtained: '270',
    })
    for (
      const wanted of ['✕ Pilot cadet: not open', '54.00 %', 'from 55 %', 'Norm 60 % lowered for Outer Isles',
        'Marks obtained of marks in total: 270 of 500', '5 marks make the difference', 'Certificate of the district office']
    ) expect(text).toContain(wanted)
  })

  it('say a near miss so that it can be acted on', () => {
    const rule = { kind: 'experience', question: 'periods', from: 'from', to: 'to', minDays: 365 } as const
    const worked = noticeWithRule(rule)
    const answers = { ...sampleAnswers, worked: 'yes', periods: [{ employer: 'Ferry', from: '2025-01-01', to: '2025-12-30' }] }
    const [verdict] = evaluatePosts(worked, answers)
    const change = verdict && smallestChange(worked, answers, verdict)
    expect(change && changeWords(worked, change)).toBe('1 day more in “Periods of work” would open it.')
  })
})

describe('an order of refusal', () => {
  const order = refusalOrder(notice, {
    number: 'HL27-1',
    name: 'Meris Halvane',
    answers: { ...sampleAnswers, bornOn: '1990-01-01' },
    falseClaims: [],
    decision: { reasons: [{ item: 'pilot-cadet', reason: 'Too old.' }], by: 'Orin Tamsero', at: '2026-11-24T12:00:00Z' },
  })
  const text = order.sections.flatMap(s => [s.heading, ...s.paragraphs]).join('\n')

  it('names for each post applied for the clause, its words, what was found and how far off it is', () => {
    expect(order.opening).toMatch(/HL27-1 of Meris Halvane for Pilot cadet and Lighthouse keeper .* refused\. Decided by Orin Tamsero/)
    expect(text).toContain('Pilot cadet is not open\nClause 4.1: “Not below 18 and not above 24 years')
    expect(text).toMatch(/Found: Age on .*: 37 y .* against 18 to 24 y 0 m 0 d\./)
    expect(text).toContain('these posts are open: Port clerk.')
  })
})
