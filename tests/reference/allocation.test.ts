import fc from 'fast-check'
import loadHighs from 'highs'
import { describe, expect, it } from 'vitest'
import { solveBestFit } from '../../core/allocation/best-fit'
import { costsOf, distanceKm, problemFaults, type AllocationProblem } from '../../core/allocation/problem'

/** The allocation against the HiGHS solver (npm `highs`) on the plain formulation: one variable a person and city. */
const policy = { kind: 'best-fit' as const, choiceCosts: [0, 1, 3, 6, 10], offListBase: 20, kilometreCap: 1000, unseated: 1_000_000 }

const problems = (room: number): fc.Arbitrary<AllocationProblem> => fc.record({ cities: fc.integer({ min: 2, max: 6 }), people: fc.integer({ min: 1, max: 40 }), seed: fc.nat(1e6) }).map(({ cities, people, seed }) => {
  let state = seed + 1
  const next = (n: number) => {
    state = (state * 48_271) % 2_147_483_647
    return state % n
  }
  const ids = Array.from({ length: cities }, (_, i) => `c${i}`)
  const total = Math.max(0, Math.round(people * room))
  const capacity = ids.map(() => Math.floor(total / cities))
  for (let i = 0; i < total % cities; i += 1) capacity[i] = (capacity[i] ?? 0) + 1
  return {
    policy,
    cities: ids.map((id, i) => ({ id, lat: next(60), lon: next(60), capacity: capacity[i] ?? 0, accessibleCapacity: Math.min(capacity[i] ?? 0, next(4)) })),
    candidates: Array.from({ length: people }, (_, i) => {
      const choices = new Set([ids[Math.min(next(cities), next(cities))] ?? 'c0'])
      for (let k = next(4); k > 0; k -= 1) choices.add(ids[next(cities)] ?? 'c0')
      return { id: String(i).padStart(3, '0'), home: ids[next(cities)] ?? 'c0', choices: [...choices], needsAccessible: next(5) === 0 }
    }),
  }
})

const highs = await loadHighs()
function highsCost(problem: AllocationProblem): number {
  const { cities, candidates } = problem
  const name = (i: number, k: number) => `x${i}_${k}`
  const objective = candidates.flatMap((c, i) => [...costsOf(c, problem).map((cost, k) => `${cost} ${name(i, k)}`), `${policy.unseated} u${i}`])
  const seated = candidates.map((_, i) => `${[...cities.map((_, k) => name(i, k)), `u${i}`].join(' + ')} = 1`)
  const limits = cities.flatMap((city, k) => [
    `${candidates.map((_, i) => name(i, k)).join(' + ')} <= ${city.capacity}`,
    ...(candidates.some(c => c.needsAccessible) ? [`${candidates.flatMap((c, i) => c.needsAccessible ? [name(i, k)] : []).join(' + ')} <= ${city.accessibleCapacity}`] : []),
  ])
  const result = highs.solve(`Minimize\n obj: ${objective.join(' + ')}\nSubject To\n ${[...seated, ...limits].join('\n ')}\nEnd`)
  return Math.round(result.ObjectiveValue)
}

describe('best fit', () => {
  it.each([['roomy', 1.6], ['exactly as many seats as people', 1], ['too few seats', 0.7]])('costs what HiGHS finds, with its certificate: %s', (_, room) => {
    fc.assert(fc.property(problems(room), (problem) => {
      const result = solveBestFit(problem)
      expect(result.cost).toBe(highsCost(problem))
      expect(result.certified).toBe(true)
      for (const city of problem.cities) {
        const there = result.placements.filter(p => p.city === city.id)
        expect(there.length).toBeLessThanOrEqual(city.capacity)
        expect(there.filter(p => problem.candidates.find(c => c.id === p.candidate)?.needsAccessible).length).toBeLessThanOrEqual(city.accessibleCapacity)
      }
    }), { numRuns: 25 })
  })

  it('does not depend on the order of the rows, and one more seat never costs more', () => {
    fc.assert(fc.property(problems(0.9), (problem) => {
      const result = solveBestFit(problem)
      expect(solveBestFit({ ...problem, cities: [...problem.cities].reverse(), candidates: [...problem.candidates].reverse() })).toEqual(result)
      const cities = problem.cities.map((c, k) => k === 0 ? { ...c, capacity: c.capacity + 1 } : c)
      expect(solveBestFit({ ...problem, cities }).cost).toBeLessThanOrEqual(result.cost)
    }), { numRuns: 40 })
  })

  it('measures great circles: a quarter of the equator, and London to Paris within a kilometre of the common figure (from memory)', () => {
    expect(distanceKm({ lat: 0, lon: 0 }, { lat: 0, lon: 90 })).toBe(Math.round(6371 * Math.PI / 2))
    expect(Math.abs(distanceKm({ lat: 51.5074, lon: -0.1278 }, { lat: 48.8566, lon: 2.3522 }) - 344)).toBeLessThanOrEqual(1)
  })

  it('refuses a problem that is not well stated, naming every fault', () => {
    const bad: AllocationProblem = {
      policy: { ...policy, choiceCosts: [3, 1] },
      cities: [{ id: 'a', lat: 0, lon: 0, capacity: 1, accessibleCapacity: 2 }, { id: 'a', lat: 0, lon: 0, capacity: -1, accessibleCapacity: -1 }],
      candidates: [{ id: '1', home: 'z', choices: ['a', 'a'], needsAccessible: false }, { id: '1', home: 'a', choices: ['a'], needsAccessible: false }],
    }
    const faults = problemFaults(bad).join('\n')
    for (const part of ['two cities share', 'two candidates share', '2 accessible of 1', 'capacity -1', 'city "z"', 'a city twice', 'choice costs fall']) expect(faults).toContain(part)
    expect(() => solveBestFit(bad)).toThrow(RangeError)
  })
})
