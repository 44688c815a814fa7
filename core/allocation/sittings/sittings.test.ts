import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { madeParties } from '../../../bench/party-instances'
import { madeSittings } from '../../../bench/sitting-instances'
import { policy } from '../../../tests/support/instances'
import { allocate, Cancelled } from '../allocate'
import type { Allocation } from '../allocation'
import { InstanceBuilder, noCity, sessionOf, type Instance } from '../instance'
import { optionTable, totalCost } from '../option-table'

const instances = fc.record({
  seed: fc.nat(1e6),
  people: fc.integer({ min: 1, max: 120 }),
  cities: fc.integer({ min: 1, max: 6 }),
  room: fc.constantFrom(0.4, 0.8, 1, 1.2, 2),
}).map(({ seed, people, cities, room }) => madeSittings(seed, people, cities, room))
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

/**
 * No session of a city has more people than seats, in all and in need, those in need by the session whose accessible seats they share;
 * nothing costs less than the bound.
 */
function expectWithinLimits(instance: Instance, { cityOf, cost, bound, standing, sittings }: Allocation): void {
  const all = instance.sittings!
  const { sessions, seats, accessible } = all
  taken(instance, cityOf, sittings!.wayOf, false).forEach((n, i) => expect(n).toBeLessThanOrEqual(seats[i]!))
  const inNeed = new Int32Array(accessible.length)
  taken(instance, cityOf, sittings!.wayOf, true).forEach((n, i) => {
    inNeed[i - i % sessions.length + sessionOf(all, i % sessions.length)]! += n
  })
  inNeed.forEach((n, i) => expect(n).toBeLessThanOrEqual(accessible[i]!))
  expect(cost).toBe(totalCost(optionTable(instance, policy), cityOf))
  expect(bound).toBeLessThanOrEqual(cost)
  expect(standing).not.toBe('not certified')
}

describe('people who sit several test papers in one city', () => {
  it('fill no session beyond its seats, by any policy, and never cost less than the bound', () => {
    fc.assert(
      fc.property(instances, kinds, fc.nat(99), (instance, kind, seed) => {
        expectWithinLimits(instance, allocate(instance, { ...policy, kind, seed }))
      }),
      { numRuns: 150, endOnFailure: true },
    )
  })

  it('get by their turn what nobody before them left less of', () => {
    fc.assert(
      fc.property(instances, (instance) => {
        const { cityOf, order, sittings } = allocate(instance, { ...policy, kind: 'first-come' })
        const { sessions, kinds: all, kindOf, seats, accessible } = instance.sittings!
        const [left, inNeed] = [[...seats], [...accessible]]
        for (const person of order!) {
          const at = (city: number, s: number) => city * sessions.length + s
          const open = (city: number) =>
            all[kindOf[person]!]!.ways.some(way =>
              way.every(s => left[at(city, s)]! > 0 && (instance.needs[person] === 0 || inNeed[at(city, s)]! > 0))
            )
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
      }),
      { numRuns: 80, endOnFailure: true },
    )
  })

  it('are placed exactly as without test papers where everybody sits one paper in one session', () => {
    fc.assert(
      fc.property(instances, (made) => {
        const { sessions: [only = ''], seats, accessible } = made.sittings!
        const of = (n: Int32Array) => n.filter((_, i) => i % 4 === 0)
        const sittings = {
          sessions: [only],
          seats: of(seats),
          accessible: of(accessible),
          kinds: [{ papers: ['one'], ways: [[0]] }],
          kindOf: new Uint16Array(made.ids.length),
        }
        const { sittings: _, ...plain } = {
          ...made,
          cities: made.cities.map((city, k) => ({ ...city, capacity: sittings.seats[k]!, accessibleCapacity: sittings.accessible[k]! })),
        }
        const [one, other] = [allocate({ ...plain, sittings }, policy), allocate(plain, policy)]
        expect(one.cost).toBe(other.cost)
      }),
      { numRuns: 60, endOnFailure: true },
    )
  })

  it('of one kind stand in one line: whoever has more at stake than another who sits the same is not passed over', () => {
    fc.assert(
      fc.property(instances, (instance) => {
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
      }),
      { numRuns: 60, endOnFailure: true },
    )
  })

  it('is stopped with what is known, within all limits and with a bound, or with nothing at all', () => {
    fc.assert(
      fc.property(instances, fc.nat(900), (instance, after) => {
        let asked = 0
        expectWithinLimits(instance, allocate(instance, policy, () => ++asked > after ? 'enough' : true))
        expect(() => allocate(instance, policy, () => false)).toThrow(Cancelled)
      }),
      { numRuns: 25, endOnFailure: true },
    )
  })

  it('is told how far it is, with a cost that falls and a bound that holds', () => {
    const told: { cost: number, bound: number }[] = []
    const steps: number[] = []
    const { cost, bound } = allocate(madeSittings(4, 300, 5, 1.05), policy, (done, total, known) => {
      told.push(known)
      return steps.push(done / total) > 0
    })
    expect(steps.every((step, i) => step <= 1 && step >= (steps[i - 1] ?? 0))).toBe(true)
    expect(told.every((one, i) => one.bound <= cost && (i === 0 || one.cost <= told[i - 1]!.cost))).toBe(true)
    expect(told.at(-1)).toEqual({ cost, bound })
  })
})

describe('people who come together, and seats that are kept for some', () => {
  const parties = fc.record({
    seed: fc.nat(1e6),
    people: fc.integer({ min: 1, max: 60 }),
    cities: fc.integer({ min: 3, max: 6 }),
    room: fc.constantFrom(0.5, 0.9, 1.1, 1.6),
  }).map(({ seed, people, cities, room }) => madeParties(seed, people, cities, room))

  it('keep together, sit only where a city is open to them, and leave kept seats to those they are kept for', () => {
    fc.assert(
      fc.property(parties, (instance) => {
        const placed = allocate(instance, policy)
        expectWithinLimits(instance, placed)
        const { cityOf, sittings } = placed
        const { kinds, kindOf, together = [] } = instance.sittings!
        for (const members of together) expect(new Set(Array.from(members, person => cityOf[person])).size).toBe(1)
        cityOf.forEach((city, person) => {
          if (city === noCity) return
          expect(instance.bars!.closed[instance.bars!.classOf[person]! * instance.cities.length + city]).toBe(0)
          expect(kinds[kindOf[person]!]!.ways[sittings!.wayOf[person]!]).toBeDefined()
        })
      }),
      { numRuns: 60, endOnFailure: true },
    )
  })

  it('cost no less than each of them alone, nor than with all seats for everybody', () => {
    fc.assert(
      fc.property(parties, (instance) => {
        const { together: _, ...apart } = instance.sittings!
        expect(allocate(instance, policy).cost).toBeGreaterThanOrEqual(allocate({ ...instance, sittings: apart }, policy).bound)
      }),
      { numRuns: 15, endOnFailure: true },
    )
  })

  it('come out the same in whatever order people are read', () => {
    const made = madeParties(8, 80, 4, 1)
    const build = (order: number[]) => {
      const { sittings, bars, cities, slots } = made
      const partyOf =
        new Map((sittings!.together ?? []).flatMap((members, party) => Array.from(members, person => [person, party] as const)))
      const builder = new InstanceBuilder([...cities], slots, 'row')
      for (const person of order) {
        builder.add({
          id: made.ids[person]!,
          home: made.home[person]!,
          choices: [...made.choices.subarray(person * slots, (person + 1) * slots)].filter(city => city !== noCity),
          needs: made.needs[person] === 1,
          turn: 0,
          kind: sittings!.kindOf[person]!,
          class: bars!.classOf[person]!,
          party: partyOf.get(person),
        })
      }
      return builder.build({ classes: bars!.classes, closed: bars!.closed }, sittings)
    }
    const order = [...made.ids.keys()]
    expect([...allocate(build(order.reverse()), policy).cityOf]).toEqual([...allocate(build(order.reverse()), policy).cityOf])
  })
})
