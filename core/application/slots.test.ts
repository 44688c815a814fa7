import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleAnswers, sampleNotice } from '../../tests/support/sample'
import { documentsAsked, emptySlots, slotOf, slotsOf } from './slots'

const notice = sampleNotice()
const ids = (answers: Parameters<typeof documentsAsked>[1]) => documentsAsked(notice, answers).map(rule => rule.id)

describe('the slots of an application', () => {
  it('follow the answers: what is claimed must be proven, and nothing else', () => {
    expect(ids(sampleAnswers)).toEqual(['identity-proof', 'marks-statement'])
    expect(ids({ ...sampleAnswers, category: 'fisher-families' })).toEqual(['identity-proof', 'category-certificate', 'marks-statement'])
    expect(ids({ ...sampleAnswers, pwd: 'yes' })).toContain('disability-certificate')
    expect(ids({ ...sampleAnswers, resultAwaited: 'yes' })).not.toContain('marks-statement')
  })

  it('are not asked for by what is not answered yet', () => {
    expect(ids({})).toEqual(['identity-proof'])
  })

  it('come images first, then documents in the order of the notice, each with its own rule', () => {
    const slots = slotsOf(notice, { ...sampleAnswers, pwd: 'yes', category: 'outer-isles' })
    expect(slots.map(slot => `${slot.as} ${slot.id}`)).toEqual([
      'image photograph',
      'image signature',
      'document identity-proof',
      'document category-certificate',
      'document disability-certificate',
      'document marks-statement',
    ])
    for (const slot of slots) expect(slotOf(notice, slot.id)).toEqual(slot)
    expect(slotOf(notice, 'thumb')).toBeNull()
    expect(slotOf(notice, 'constructor')).toBeNull()
  })

  it('lack a file only where one must be there', () => {
    const lacking = (files: Record<string, unknown>) => emptySlots(notice, sampleAnswers, files).map(slot => slot.id)
    expect(lacking({})).toEqual(['photograph', 'signature', 'identity-proof'])
    expect(lacking({ 'photograph': {}, 'identity-proof': {} })).toEqual(['signature'])
    // What was sent for a claim that is no longer made fills nothing else.
    expect(lacking({ 'photograph': {}, 'signature': {}, 'category-certificate': {} })).toEqual(['identity-proof'])
  })

  it('never ask for more when a claim is taken back', () => {
    fc.assert(fc.property(
      fc.constantFrom('outer-isles', 'fisher-families', 'service-dependants'),
      fc.constantFrom('yes', 'no'),
      (category, pwd) => {
        const claimed = ids({ ...sampleAnswers, category, pwd })
        const taken = ids({ ...sampleAnswers, category: 'general', pwd: 'no' })
        expect(claimed).toEqual(expect.arrayContaining(taken))
        expect(claimed.length).toBe(taken.length + 1 + (pwd === 'yes' ? 1 : 0))
      },
    ))
  })
})
