import fc from 'fast-check'
import loadHighs from 'highs'
import { describe, expect, it } from 'vitest'
import { allocate } from '../../core/allocation/allocate'
import { brokenLimit } from '../../core/allocation/certificate'
import { type AllocationCity, type Instance, noCity } from '../../core/allocation/instance'
import { optionTable } from '../../core/allocation/option-table'
import { distanceKm, usualCosts, type AllocationPolicy } from '../../core/allocation/policy'
import { easy, hard, makeInstance, scarce, type Shape } from '../../bench/allocation-instances'
import { instanceOf, people, policy, seats, tinyInstances } from '../support/instances'

const highs = await loadHighs()

/** The plain formulation, a variable for each person and city, written from the statement of the problem and from nothing of ours. */
function plainFormulation(instance: Instance, { choiceCosts, offListBase, kilometreCap, unseated }: AllocationPolicy): string {
  const { cities, ids, needs } = instance
  const costs = ids.map((_, i) => {
    const list = [...instance.choices.subarray(i * instance.slots, (i + 1) * instance.slots)]
    const home = cities[instance.home[i] ?? 0] ?? { lat: 0, lon: 0 }
    return cities.map((city, k) =>
      list.includes(k) ? choiceCosts[list.indexOf(k)] ?? 0 : offListBase + Math.min(kilometreCap, distanceKm(home, city))
    )
  })
  const sum = (parts: string[]) => parts.join('\n + ')
  const limits = cities.flatMap((city, k) => {
    const inNeed = ids.flatMap((_, i) => needs[i] === 1 ? [`x${i}_${k}`] : [])
    return [`${sum(ids.map((_, i) => `x${i}_${k}`))} <= ${city.capacity}`,
      ...(inNeed.length > 0 ? [`${sum(inNeed)} <= ${city.accessibleCapacity}`] : [])]
  })
  return `Minimize\n obj: ${sum(costs.flatMap((row, i) => [...row.map((cost, k) => `${cost} x${i}_${k}`), `${unseated} u${i}`]))}
Subject To\n ${[...ids.map((_, i) => `${sum([...cities.map((_, k) => `x${i}_${k}`), `u${i}`])} = 1`), ...limits].join('\n ')}\nEnd`
}

const kinds: Record<string, Omit<Shape, 'people' | 'cities'>> = {
  'roomy': { ...easy, room: 1.6 },
  'tight, 2 %': { ...easy, room: 1.02 },
  'exactly as many seats as people': { ...hard, room: 1 },
  'too few seats': { ...hard, room: 0.85 },
  'accessible seats tight': scarce,
  'accessible seats too few': { ...scarce, needing: 0.15, accessibleRoom: 0.7 },
  'both too few': { ...scarce, needing: 0.2, room: 0.9, accessibleRoom: 0.7 },
  'ties': { ...hard, alike: 2, room: 1.01 },
  'hard': hard,
}
const sizes = [[30, 3], [120, 5], [300, 8], [600, 12], [900, 6], [1500, 9], [3000, 6]] as const

describe('best fit against HiGHS (npm `highs`) on the plain formulation', () => {
  it.each(Object.entries(kinds))('costs the same, with its certificate: %s', (_, kind) => {
    for (const [index, [number, cities]] of sizes.entries()) {
      const instance = instanceOf(makeInstance({ people: number, cities, ...kind }, 31 * index + 5))
      const result = allocate(instance, policy)
      expect(result.cost, `${number} people, ${cities} cities`)
        .toBe(Math.round(highs.solve(plainFormulation(instance, policy)).ObjectiveValue))
      expect(result.standing).toBe('certified')
    }
  })
})

/** The least cost by trying every placement there is. */
function bruteForce(instance: Instance, policyUsed: AllocationPolicy): number {
  const table = optionTable(instance, policyUsed)
  const cityOf = new Uint16Array(table.people).fill(noCity)
  const all = [...instance.cities.keys(), noCity]
  const cost = (person: number, city: number) => city === noCity ? policyUsed.unseated : costInWords(instance, policyUsed, person, city)
  const least = (person: number, sum: number): number => {
    if (person === table.people) return brokenLimit(table, cityOf) === null ? sum : Infinity
    return Math.min(...all.map((city) => {
      cityOf[person] = city
      return least(person + 1, sum + cost(person, city))
    }))
  }
  return least(0, 0)
}

function costInWords(instance: Instance, costs: AllocationPolicy, person: number, city: number): number {
  const place = [...instance.choices.subarray(person * instance.slots, (person + 1) * instance.slots)].indexOf(city)
  const at = (k: number) => instance.cities[k] ?? { lat: 0, lon: 0 }
  return place >= 0
    ? costs.choiceCosts[place] ?? 0
    : costs.offListBase + Math.min(costs.kilometreCap, distanceKm(at(instance.home[person] ?? 0), at(city)))
}

describe('best fit on small instances', () => {
  it('costs what trying every placement finds', () => {
    fc.assert(
      fc.property(tinyInstances(3, 5), (instance) => {
        expect(allocate(instance, policy).cost).toBe(bruteForce(instance, policy))
      }),
      { numRuns: 150 },
    )
  })

  it('gives a certificate and keeps all limits at every size', () => {
    for (
      const [index, [number, kind]]
        of ([[1, hard], [2, scarce], [17, hard], [400, scarce], [5000, hard], [20_000, scarce], [60_000, { ...hard, room: 0.95 }]] as const)
          .entries()
    ) {
      const instance = instanceOf(makeInstance({ people: number, cities: Math.min(60, number + 1), ...kind }, index))
      const result = allocate(instance, policy)
      expect(result).toMatchObject({ standing: 'certified', cost: result.bound })
      expect(brokenLimit(optionTable(instance, policy), result.cityOf)).toBeNull()
    }
  })

  it('does not depend on the order of the rows', () => {
    fc.assert(
      fc.property(tinyInstances(5, 40), fc.nat(1e6), (instance, seed) => {
        const shuffled = people(instance).sort((a, b) => ((a.turn + 1) * (seed + 7)) % 101 - ((b.turn + 1) * (seed + 7)) % 101)
        const again = instanceOf({
          cities: [...instance.cities].reverse(),
          people: shuffled.map(p => ({
            ...p,
            home: instance.cities.length - 1 - p.home,
            choices: p.choices.map(k => instance.cities.length - 1 - k),
          })),
        })
        expect(again.ids).toEqual(instance.ids)
        expect(allocate(again, policy).cityOf).toEqual(allocate(instance, policy).cityOf)
      }),
      { numRuns: 60 },
    )
  })

  it('saves exactly its price with one more seat, and never costs more', () => {
    fc.assert(
      fc.property(tinyInstances(5, 40), fc.nat(4), (instance, at) => {
        const k = at % instance.cities.length
        const before = allocate(instance, policy)
        const after = allocate(seats(instance, k, { capacity: 1 }), policy)
        expect(before.cost - after.cost).toBe(before.prices.seat[k])
        const both = allocate(seats(instance, k, { capacity: 1, accessibleCapacity: 1 }), policy)
        expect(both.cost).toBeLessThanOrEqual(after.cost)
      }),
      { numRuns: 150 },
    )
  })

  it('leaves no earlier applicant worse off than an equal who came later', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 5 }), fc.integer({ min: 20, max: 80 }), fc.nat(1e6), (cities, number, seed) => {
        const made = makeInstance({ people: number, cities, ...hard, alike: 2 }, seed)
        const instance = instanceOf(made, (_, i) => (i * 7919 + seed) % 13)
        const { cityOf } = allocate(instance, policy)
        const all = people(instance)
        for (const [i, a] of all.entries()) {
          for (const [j, b] of all.entries()) {
            if (a.home !== b.home || a.needs !== b.needs || a.choices.join() !== b.choices.join() || a.turn >= b.turn) continue
            const cost = (person: number) =>
              cityOf[person] === noCity ? policy.unseated : costInWords(instance, policy, person, cityOf[person] ?? 0)
            expect(cost(i)).toBeLessThanOrEqual(cost(j))
          }
        }
      }),
      { numRuns: 40 },
    )
  })
})

describe('distance', () => {
  it('measures great circles: a quarter of the equator, and London to Paris within a kilometre of the common figure (from memory)', () => {
    expect(distanceKm({ lat: 0, lon: 0 }, { lat: 0, lon: 90 })).toBe(Math.round(6371 * Math.PI / 2))
    expect(Math.abs(distanceKm({ lat: 51.5074, lon: -0.1278 }, { lat: 48.8566, lon: 2.3522 }) - 344)).toBeLessThanOrEqual(1)
  })
})

it('counts the sample cities as stated', () => {
  const cities: AllocationCity[] = makeInstance({ people: 1000, cities: 10, ...hard }, 3).cities
  expect(cities.reduce((n, c) => n + c.capacity, 0)).toBe(1020)
  expect(usualCosts).toEqual({ choiceCosts: [0, 1, 3, 6, 10], offListBase: 20, kilometreCap: 1000, unseated: 1_000_000 })
})
