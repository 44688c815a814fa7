import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { madeSittings } from '../../../bench/sitting-instances'
import { policy } from '../../../tests/support/instances'
import { allocate } from '../allocate'
import { noCity, type Instance } from '../instance'
import { optionTable, totalCost } from '../option-table'

const instances = fc.record({ seed: fc.nat(1e6), people: fc.integer({ min: 1, max: 60 }), cities: fc.integer({ min: 1, max: 6 }), room: fc.constantFrom(0.4, 0.8, 1, 1.2, 2) })
  .map(({ seed, people, cities, room }) => madeSittings(seed, people, cities, room))
const kinds = fc.constantFrom('best-fit', 'first-come', 'lottery')

/** Seats that a placement takes, by city and session. */
function taken(instance: Instance, cityOf: Uint16Array, wayOf: Uint8Array, inNeed: boolean): number[] {
  const { sessions, kinds: all, kindOf, seats } = instance.sittings!
  const sum = Array.from(seats, () => 0)
  cityOf.forEach((city, person) => {
    if (city === noCity || (inNeed && instance.needs[person] === 0)) return
    for (const s of all[kindOf[person]!]!.ways[wayOf[person]!]!) sum[city * sessions.length + s]! += 1
  })
  return sum
}

describe('people who sit several test papers in one city', () => {
  it('fill no session beyond its seats, by any policy, and never cost less than the bound', () => {
    fc.assert(fc.property(instances, kinds, fc.nat(99), (instance, kind, seed) => {
      const { cityOf, cost, bound, standing, sittings } = allocate(instance, { ...policy, kind, seed })
      const { seats, accessible } = instance.sittings!
      taken(instance, cityOf, sittings!.wayOf, false).forEach((n, i) => expect(n).toBeLessThanOrEqual(seats[i]!))
      taken(instance, cityOf, sittings!.wayOf, true).forEach((n, i) => expect(n).toBeLessThanOrEqual(accessible[i]!))
      expect(cost).toBe(totalCost(optionTable(instance, policy), cityOf))
      expect(bound).toBeLessThanOrEqual(cost)
      expect(standing).not.toBe('not certified')
    }), { numRuns: 40, endOnFailure: true })
  })

  it('get by their turn what nobody before them left less of', () => {
    fc.assert(fc.property(instances, (instance) => {
      const { cityOf, order, sittings } = allocate(instance, { ...policy, kind: 'first-come' })
      const { sessions, kinds: all, kindOf, seats, accessible } = instance.sittings!
      const [left, inNeed] = [[...seats], [...accessible]]
      for (const person of order!) {
        const at = (city: number, s: number) => city * sessions.length + s
        const open = (city: number) => all[kindOf[person]!]!.ways.some(way => way.every(s => left[at(city, s)]! > 0 && (instance.needs[person] === 0 || inNeed[at(city, s)]! > 0)))
        const list = [...instance.choices.subarray(person * instance.slots, (person + 1) * instance.slots)].filter(k => k !== noCity)
        const wanted = list.find(open)
        if (wanted !== undefined) expect(cityOf[person]).toBe(wanted)
        else if (cityOf[person] === noCity) expect(instance.cities.map((_, k) => k).some(open)).toBe(false)
        if (cityOf[person] === noCity) continue
        for (const s of all[kindOf[person]!]!.ways[sittings!.wayOf[person]!]!) {
          left[at(cityOf[person]!, s)]! -= 1
          if (instance.needs[person] === 1) inNeed[at(cityOf[person]!, s)]! -= 1
        }
      }
    }), { numRuns: 25, endOnFailure: true })
  })

  it('are placed exactly as without test papers where everybody sits one paper in one session', () => {
    fc.assert(fc.property(instances, (made) => {
      const { sessions: [only = ''], seats, accessible } = made.sittings!
      const of = (n: Int32Array) => n.filter((_, i) => i % 4 === 0)
      const sittings = { sessions: [only], seats: of(seats), accessible: of(accessible), kinds: [{ papers: ['one'], ways: [[0]] }], kindOf: new Uint16Array(made.ids.length) }
      const { sittings: _, ...plain } = { ...made, cities: made.cities.map((city, k) => ({ ...city, capacity: sittings.seats[k]!, accessibleCapacity: sittings.accessible[k]! })) }
      const [one, other] = [allocate({ ...plain, sittings }, policy), allocate(plain, policy)]
      expect(one.cost).toBe(other.cost)
    }), { numRuns: 40, endOnFailure: true })
  })

  it('of one kind stand in one line: whoever has more at stake than another who sits the same is not passed over', () => {
    fc.assert(fc.property(instances, (instance) => {
      const { sittings } = allocate(instance, policy)
      for (const { lines, cities, placed } of sittings!.parts) {
        lines.forEach(({ ordinary }, k) => {
          if (ordinary.by !== 'stake') return
          const waiting = Math.max(-Infinity, ...ordinary.steps.filter(step => step.waiting > 0).map(step => step.stake))
          const seated = Math.min(Infinity, ...ordinary.steps.filter(step => step.seated > 0).map(step => step.stake))
          expect(waiting).toBeLessThanOrEqual(seated)
          expect(placed[k]!.all).toBeLessThanOrEqual(cities[k]!.capacity)
        })
      }
    }), { numRuns: 40, endOnFailure: true })
  })
})
