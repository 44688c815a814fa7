import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { assignSittings, type Sitter } from './sittings'
import { seatKey, type Seat } from './seats'

const sessions = ['one', 'two', 'three']
const seatsOf = (rooms: number[], accessible: number): Seat[] =>
  sessions.flatMap(session =>
    rooms.flatMap((n, r) =>
      Array.from({ length: n }, (_, i) => ({ city: 'c', venue: 'v', room: `r${r}`, session, seat: i + 1, accessible: i < accessible }))
    )
  )

const sitters = (most: number) =>
  fc.array(fc.record({ needsAccessible: fc.boolean(), sessions: fc.subarray(sessions, { minLength: 1 }) }), { maxLength: most }).map(list =>
    list.map((one, i): Sitter => ({ ...one, id: `p${String(i).padStart(2, '0')}`, papers: one.sessions.map(s => `paper ${s}`) }))
  )
const room = [6, 6, 6]

describe('seats of people who sit several papers', () => {
  it('are one for each paper in its session, none twice, step-free for those in need, and stay when they are given anew', () => {
    fc.assert(fc.property(sitters(18), sitters(6), (people, more) => {
      const open = seatsOf(room, 3)
      const needing = [...people, ...more].filter(p => p.needsAccessible).length
      fc.pre(needing <= 9 && people.length + more.length <= 18)
      const given = assignSittings('c', open, people)
      const check = (seats: typeof given, all: Sitter[]) => {
        const keys = [...seats.values()].flat().map(seatKey)
        expect(new Set(keys).size).toBe(keys.length)
        for (const p of all) {
          expect(seats.get(p.id)?.map(s => [s.paper, s.session])).toEqual(p.papers.map((paper, i) => [paper, p.sessions[i]]))
          if (p.needsAccessible) expect(seats.get(p.id)?.every(s => s.accessible)).toBe(true)
        }
      }
      check(given, people)
      const again = assignSittings('c', open, people.map(p => ({ ...p, has: given.get(p.id) ?? [] })))
      expect(again).toEqual(given)
      const late = more.map((p, i) => ({ ...p, id: `q${i}` }))
      check(assignSittings('c', open, [...people.map(p => ({ ...p, has: given.get(p.id) ?? [] })), ...late]), [...people, ...late])
    }))
  })

  it('are the same chair in every session where that is free, and too many people are refused', () => {
    const two = (id: string): Sitter => ({ id, needsAccessible: false, papers: ['a', 'b'], sessions: ['one', 'two'] })
    const chairs = assignSittings('c', seatsOf([3], 0), [two('x'), { ...two('w'), papers: ['b'], sessions: ['two'] }, two('z')])
    expect(['x', 'z'].map(id => new Set(chairs.get(id)?.map(s => s.seat)).size)).toEqual([1, 1])
    expect(() => assignSittings('c', seatsOf([1], 0), [two('x'), two('y')])).toThrow(RangeError)
  })
})
