import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleAnswers, sampleNotice } from '../../tests/support/sample'
import { readNotice } from '../notice/check'
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
      'image photograph', 'image signature', 'document identity-proof', 'document category-certificate', 'document disability-certificate', 'document marks-statement',
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
    fc.assert(fc.property(fc.constantFrom('outer-isles', 'fisher-families', 'service-dependants'), fc.constantFrom('yes', 'no'), (category, pwd) => {
      const claimed = ids({ ...sampleAnswers, category, pwd })
      const taken = ids({ ...sampleAnswers, category: 'general', pwd: 'no' })
      expect(claimed).toEqual(expect.arrayContaining(taken))
      expect(claimed.length).toBe(taken.length + 1 + (pwd === 'yes' ? 1 : 0))
    }))
  })
})

describe('a notice that asks for documents', () => {
  const [identity] = notice.documents
  const faults = (documents: unknown[], images: object = notice.images) => readNotice({ ...notice, documents, images }).faults.map(fault => `${fault.at}: ${fault.message}`)

  it.each<[string, object, string]>([
    ['the id of an image', { id: 'photograph' }, 'documents.photograph: "photograph" is the id of something else'],
    ['the id of a post', { id: 'port-clerk' }, 'is the id of something else'],
    ['no format', { formats: [] }, 'documents.0.formats'],
    ['a format that nobody reads', { formats: ['docx'] }, 'documents.0.formats.0'],
    ['a size that no file has', { bytes: { min: 4096, max: 1024 } }, 'at least 4096 and at most 1024 bytes: no file is both'],
    ['more bytes than are taken', { bytes: { max: 30 * 1024 * 1024 } }, 'more than the 20971520 that are taken at the door'],
    ['more pages than are taken', { pages: { max: 60 } }, '60 pages are more than the 24 that are taken at the door'],
    ['a condition on what is not asked', { when: { question: 'shoeSize', in: ['9'] } }, 'shoeSize'],
    ['a bound that is none', { blur: { most: 3 } }, 'documents.0.blur'],
  ])('with %s has a fault that says so', (_, change, words) => {
    expect(faults([{ ...identity, ...change }]).join('\n')).toContain(words)
  })

  it('twice under one id has a fault; without any it has none', () => {
    expect(faults([identity, identity])[0]).toContain('is the id of something else')
    expect(faults([])).toEqual([])
  })

  it('may have faces compared only in photographs, and only with a rule for the face', () => {
    const { photograph, signature } = notice.images
    expect(faults([], { photograph: { ...photograph, sameFace: true }, signature })).toEqual([])
    expect(faults([], { photograph: { ...photograph, face: undefined, sameFace: true }, signature })).toEqual(['images.photograph.sameFace: faces cannot be compared without a rule for the face'])
    expect(faults([], { photograph, signature: { ...signature, sameFace: true } })).toEqual(['images.signature.sameFace: a signature shows no face to be compared'])
  })
})
