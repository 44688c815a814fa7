import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../tests/support/sample'
import { assignSeats, capacityOfCity, openSeats, rollNumber, seatKey, seatsOfCity } from './seats'

const notice = sampleNotice()
const [city] = notice.cities
if (!city) throw new Error('the notice has no city')
const { capacity, accessibleCapacity } = capacityOfCity(city, notice.sessions)
const free = (taken: string[] = []) => openSeats(city, notice.sessions, [], new Set(taken))
const people = (n: number, needing: number) => Array.from({ length: n }, (_, i) => ({ id: String(i).padStart(5, '0'), needsAccessible: i % 3 === 0 && i / 3 < needing }))

describe('seats', () => {
  it('are those of all rooms in all sessions, each once', () => {
    const seats = seatsOfCity(city, notice.sessions)
    expect(seats.length).toBe(notice.sessions.length * city.venues.flatMap(v => v.rooms).reduce((n, r) => n + r.seats, 0))
    expect(new Set(seats.map(seatKey)).size).toBe(capacity)
  })

  it('go to everybody once, step-free ones to those in need, up to the last seat', () => {
    fc.assert(fc.property(fc.integer({ min: 0, max: capacity }), fc.integer({ min: 0, max: accessibleCapacity }), (n, needing) => {
      const list = people(n, needing)
      const given = assignSeats(city.id, free(), list)
      expect(given.size).toBe(n)
      expect(new Set([...given.values()].map(seatKey)).size).toBe(n)
      for (const person of list.filter(p => p.needsAccessible)) expect(given.get(person.id)?.accessible).toBe(true)
    }), { numRuns: 40 })
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

  it('say how many people and seats there were when they run out', () => {
    expect(() => assignSeats(city.id, free(), people(capacity + 1, 0))).toThrow(`${capacity + 1} people, ${capacity} free seats`)
  })

  it('carry roll numbers of eight digits, all different', () => {
    const numbers = [0, 1, 23].flatMap(place => [1, 2, 99_999].map(serial => rollNumber(place, serial)))
    expect(numbers.every(n => /^\d{8}$/.test(n))).toBe(true)
    expect(new Set(numbers).size).toBe(9)
  })
})
