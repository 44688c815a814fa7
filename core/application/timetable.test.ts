import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../tests/support/sample'
import type { Notice } from '../notice/schema'
import type { Session } from '../notice/centre-schema'
import { checkAnswer } from './check-answer'
import { collide, collisionsAmong, inTheWay, testPapersOf, timetableOf, waysToSit } from './timetable'

const session = (id: string, date: string, starts: string, ends: string, gateCloses = starts): Session => ({
  id,
  title: id,
  date,
  reporting: '07:00',
  gateCloses,
  starts,
  ends,
})
const [a, b, c, d] = [session('a', '2027-01-09', '09:00', '12:00'), session('b', '2027-01-09', '13:00', '16:00', '12:45'),
  session('c', '2027-01-09', '11:00', '14:00'), session('d', '2027-01-10', '09:00', '12:00')] as const
const day = [a, b, c, d]

/** Three posts, each with a paper of its own in the sessions that are given. */
function noticeOf(papers: Record<string, string[]>): Notice {
  const testPapers = Object.entries(papers).map(([id, sessions]) => ({ id, title: id.toUpperCase(), sessions }))
  const [clauses] = sampleNotice().posts.map(post => post.clauses)
  return {
    ...sampleNotice(),
    sessions: day,
    testPapers,
    posts: testPapers.map(({ id, title }) => ({ id, title, testPapers: [id], clauses: clauses ?? [] })),
  }
}

describe('sessions collide', () => {
  // Common practice, no source: one day and overlapping times is a clash, another day is fine; pair by pair.
  it.each([['a', 'a', true], ['a', 'b', false], ['a', 'c', true], ['b', 'c', true], ['a', 'd', false], ['c', 'd', false]])(
    '%s and %s: %s',
    (one, other, wanted) => {
      const at = (id: string) => day.find(s => s.id === id) ?? a
      expect([collide(at(one), at(other)), collide(at(other), at(one))]).toEqual([wanted, wanted])
    },
  )

  it('when the gate of the one closes before the other is over, and with more time for each hour', () => {
    const [first, gate] = [session('1', '2027-01-09', '09:00', '12:00'), session('2', '2027-01-09', '12:00', '13:00', '11:50')]
    expect([collide(first, gate), collide(first, { ...gate, gateCloses: '12:00' })]).toEqual([true, false])
    expect([collide(a, b, 14), collide(a, b, 20)]).toEqual([false, true])
  })
})

describe('test papers of chosen posts', () => {
  it('are sat in every way without a collision, and in no other', () => {
    const sets = fc.array(fc.subarray(['a', 'b', 'c', 'd'], { minLength: 1 }), { minLength: 1, maxLength: 4 })
    fc.assert(fc.property(sets, (lists) => {
      const notice = noticeOf(Object.fromEntries(lists.map((list, i) => [`p${i}`, list])))
      const ways = waysToSit(notice, testPapersOf(notice, notice.posts.map(p => p.id)))
      const all = lists.reduce<string[][]>((found, list) => found.flatMap(way => list.map(id => [...way, id])), [[]])
      // On one day a and c, and b and c overlap; nobody sits one session twice.
      const fits = (way: string[]) => new Set(way).size === way.length && !(way.includes('c') && (way.includes('a') || way.includes('b')))
      expect(ways.map(way => way.map(s => s.id).join())).toEqual(all.filter(fits).map(way => way.join()))
    }))
  })

  it('name the pair that collides, or all where each pair alone does not', () => {
    const pair = noticeOf({ x: ['a'], y: ['c'], z: ['d'] })
    expect(collisionsAmong(pair, {}, ['x', 'z', 'y'])).toEqual([['x', 'y']])
    expect([inTheWay(pair, ['x', 'z'], 'y'), inTheWay(pair, ['z'], 'y'), inTheWay(pair, ['x'], 'x')]).toEqual(['X', null, null])
    const all = noticeOf({ x: ['a', 'd'], y: ['a', 'd'], z: ['a', 'd'] })
    expect(collisionsAmong(all, {}, ['x', 'y'])).toEqual([])
    expect(collisionsAmong(all, {}, ['x', 'y', 'z'])).toEqual([['x', 'y', 'z']])
  })

  it('are a fault of the answer, in its words, as the bounds of the question are', () => {
    const notice = noticeOf({ x: ['a'], y: ['c'], z: ['d'] })
    const question = notice.sections.flatMap(s => s.questions).find(q => q.kind === 'posts')
    const codes = (posts: string[]) =>
      question
        ? checkAnswer({ ...question, max: 3 } as typeof question, { notice, answers: { posts }, today: '2026-11-30' }).map(
          f => [f.code, f.parameters.second]
        )
        : null
    expect([codes(['x', 'y']), codes(['x', 'z'])]).toEqual([[['sheet.collide', 'Y']], []])
  })

  it('stand on the timetable in order of time', () => {
    const notice = noticeOf({ x: ['d'], y: ['d', 'b'], z: ['a'] })
    expect(timetableOf(notice, ['x', 'y', 'z']).map(time => [time.paper.id, time.sessions.map(s => s.id).join()])).toEqual([['z', 'a'], [
      'y',
      'b,d',
    ], ['x', 'd']])
  })
})
