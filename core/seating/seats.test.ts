import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../tests/support/sample'
import { assignSeats, capacityOfCity, keepSeats, openSeats, rollNumber, seatKey, seatsOfCity } from './seats'

const notice = sampleNotice()
const [city] = notice.cities
if (!city) throw new Error('the notice has no city')
const { capacity, accessibleCapacity } = capacityOfCity(city, notice.sessions)
const free = (taken: string[] = []) => openSeats(city, notice.sessions, [], new Set(taken))
const people = (n: number, needing: number) =>
  Array.from({ length: n }, (_, i) => ({ id: String(i).padStart(5, '0'), needsAccessible: i % 3 === 0 && i / 3 < needing }))

describe('seats', () => {
  it('are those of all rooms in all sessions, each once', () => {
    const seats = seatsOfCity(city, notice.sessions)
    expect(seats.length).toBe(notice.sessions.length * city.venues.flatMap(v => v.rooms).reduce((n, r) => n + r.seats, 0))
    expect(new Set(seats.map(seatKey)).size).toBe(capacity)
  })

  it('go to everybody once, step-free ones to those in need, up to the last seat', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: capacity }), fc.integer({ min: 0, max: accessibleCapacity }), (n, needing) => {
        const list = people(n, needing)
        const given = assignSeats(city.id, free(), list)
        expect(given.size).toBe(n)
        expect(new Set([...given.values()].map(seatKey)).size).toBe(n)
        for (const person of list.filter(p => p.needsAccessible)) expect(given.get(person.id)?.accessible).toBe(true)
      }),
      { numRuns: 40 },
    )
  })

  it('leave step-free seats free as long as an ordinary one is left', () => {
    const given = assignSeats(city.id, free(), people(capacity - accessibleCapacity, 0))
    expect([...given.values()].some(s => s.accessible)).toBe(false)
  })

  it('do not depend on the order of the rows and leave those alone that were given before', () => {
    const list = people(capacity - 12, 2)
    const first = assignSeats(city.id, free(), list)
    expect(assignSeats(city.id, free(), [...list].reverse())).toEqual(first)
    const taken = [...first.values()].map(seatKey)
    const second = assignSeats(city.id, free(taken), people(10, 0).map(p => ({ ...p, id: `x${p.id}` })))
    expect([...second.values()].some(s => taken.includes(seatKey(s)))).toBe(false)
  })

  it('stay within the limit of each session, counting those given before', () => {
    const [first, second] = notice.sessions
    if (!first || !second) throw new Error('the notice has fewer than two sessions')
    const limits = [{ session: first.id, seats: 3, accessibleSeats: 1 }, { session: second.id, seats: 0, accessibleSeats: 0 }]
    const all = openSeats(city, notice.sessions, limits, new Set())
    expect(all.map(s => [s.session, s.accessible])).toEqual([[first.id, true], [first.id, false], [first.id, false]])
    expect(openSeats(city, notice.sessions, limits, new Set(all.slice(1).map(seatKey))).map(seatKey)).toEqual(all.slice(0, 1).map(seatKey))
  })

  it('are kept by those who stay, given up where they are lost or wanted by people in need, and there is one for everybody', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: capacity }),
        fc.integer({ min: 0, max: accessibleCapacity }),
        fc.nat(1000),
        (n, needing, seed) => {
          const [before, after] = [people(n, 0), people(n, needing)]
          const given = assignSeats(city.id, free(), before)
          // Who stays is drawn; those who come are as many as leave, with need this time.
          const stays = (i: number) => (i * 37 + seed) % 3 !== 0
          const seated = before.flatMap((p, i) => {
            const seat = given.get(p.id)
            return seat && stays(i) ? [{ ...p, seat }] : []
          })
          const coming = after.filter((_, i) => !stays(i)).map(p => ({ ...p, id: `x${p.id}` }))
          const { kept, leaving, free: open } = keepSeats(free(), seated, coming)
          expect(kept.length + leaving.length).toBe(seated.length)
          const again = assignSeats(city.id, open, [...leaving, ...coming])
          const all = [...kept.map(k => seatKey(k.seat)), ...[...again.values()].map(seatKey)]
          expect(new Set(all).size).toBe(n)
          for (const p of coming.filter(c => c.needsAccessible)) expect(again.get(p.id)?.accessible).toBe(true)
        },
      ),
      { numRuns: 60 },
    )
    const [one] = free()
    if (!one) throw new Error('no seat')
    expect(keepSeats([], [{ id: 'a', needsAccessible: false, seat: one }], [])).toMatchObject({ kept: [], leaving: [{ id: 'a' }] })
  })

  it('say how many people and seats there were when they run out', () => {
    expect(() => assignSeats(city.id, free(), people(capacity + 1, 0))).toThrow(`${capacity + 1} people, ${capacity} free seats`)
  })

  it('carry roll numbers of eight digits, all different', () => {
    const numbers = [1, 2, 24].flatMap(place => [1, 2, 99_999].map(serial => rollNumber(place, serial)))
    expect(numbers.every(n => /^\d{8}$/.test(n))).toBe(true)
    expect(new Set(numbers).size).toBe(9)
  })
})
