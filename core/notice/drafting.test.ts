import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Drafting } from './drafting'

const start = { title: 'Harbour service', fees: { base: 100, late: [10, 20] }, posts: [{ id: 'pilot', title: 'Pilot' }] }
const opened = (document: unknown = start) => {
  const drafting = new Drafting()
  drafting.open(document, 1)
  return drafting
}
/** Places of values that are not in one another. */
const changes = fc.array(
  fc.record({
    at: fc.constantFrom('/title', '/fees/base', '/fees/late/0', '/fees/late/1', '/posts/0/title', '/posts/0/id'),
    value: fc.oneof(fc.string(), fc.integer()),
  }),
  { maxLength: 30 },
)
const write = (drafting: Drafting, list: readonly { at: string, value: unknown }[], from = 0) =>
  list.forEach(({ at, value }, i) => drafting.set(at, value, from + i * 10_000))

describe('a draft as one page has it', () => {
  it('goes back step by step to what it was, and forward again to what it became', () => {
    fc.assert(fc.property(changes, (list) => {
      const drafting = opened()
      write(drafting, list)
      const became = drafting.document
      let steps = 0
      while (drafting.undo()) steps += 1
      expect(drafting.document).toEqual(start)
      for (let i = 0; i < steps; i += 1) expect(drafting.redo()).toBe(true)
      expect(drafting.redo()).toBe(false)
      expect(drafting.document).toEqual(became)
    }))
  })

  it('takes up after a closed page what the office did not have, whether it was on its way or not', () => {
    fc.assert(fc.property(changes, fc.nat(30), fc.boolean(), (list, sentAfter, isAnswered) => {
      const page = opened()
      write(page, list.slice(0, sentAfter))
      const sent = page.next()
      if (sent && isAnswered) page.saved(sent.document, 2)
      write(page, list.slice(sentAfter), 1_000_000)
      const anew = opened(sent && isAnswered ? sent.document : start)
      anew.recover(page.toKeep(true))
      expect(anew.document).toEqual(page.document)
      expect(anew.clashes).toEqual([])
      // What is sent again makes the same document.
      expect(anew.isWhole ? anew.document : anew.next()?.document).toEqual(page.document)
    }))
  })

  it('joins what somebody else changed elsewhere, and shows both where they changed the same', () => {
    const drafting = opened()
    drafting.set('/fees/base', 150, 0)
    drafting.set('/title', 'Harbour and lighthouse service', 0)
    expect(drafting.theirs({ ...start, title: 'The harbour', places: [] }, 2)).toBe(2)
    expect(drafting.document).toMatchObject({ title: 'The harbour', fees: { base: 150 }, places: [] })
    const [clash] = drafting.clashes
    expect(clash).toMatchObject({ theirs: 'The harbour', edit: { at: '/title', after: 'Harbour and lighthouse service' } })
    if (clash) drafting.settle(clash, true, 0)
    expect(drafting.next()).toEqual({
      revision: 2,
      document: { ...start, title: 'Harbour and lighthouse service', fees: { ...start.fees, base: 150 }, places: [] },
    })
    expect(drafting.theirs(start, 2)).toBeNull()
  })

  it('takes letters typed soon after one another for one step, and lets an id follow its title until it is written by hand', () => {
    const drafting = opened({ posts: [{ id: '', title: '' }] })
    ;['P', 'Pi', 'Pilot'].forEach((title, i) => drafting.set('/posts/0/title', title, i * 200))
    expect(drafting.document).toEqual({ posts: [{ id: 'pilot', title: 'Pilot' }] })
    drafting.undo()
    expect(drafting.document).toEqual({ posts: [{ id: '', title: '' }] })
    drafting.redo()
    drafting.set('/posts/0/id', 'cadet', 10_000)
    drafting.set('/posts/0/title', 'Pilot cadet', 20_000)
    expect(drafting.document).toEqual({ posts: [{ id: 'cadet', title: 'Pilot cadet' }] })
  })
})
