import loadHighs from 'highs'
import { describe, expect, it } from 'vitest'
import { madeParties } from '../../bench/party-instances'
import { madeSittings } from '../../bench/sitting-instances'
import { allocate } from '../../core/allocation/allocate'
import { noCity, sessionOf, type Instance } from '../../core/allocation/instance'
import { closed, costAt, optionTable } from '../../core/allocation/option-table'
import { usualCosts, type AllocationPolicy } from '../../core/allocation/policy'
import { policy } from '../support/instances'

/** Whole-number programmes are solved by HiGHS 1.15 (npm `highs`). */
const highs = await loadHighs()

const sittingsOf = ({ sittings }: Instance) => {
  if (!sittings) throw new Error('nobody sits test papers')
  return sittings
}

/** The least cost there is: a variable for each person, city and way, people who come together bound to one city. */
function optimum(instance: Instance, policy: AllocationPolicy): number {
  const sittings = sittingsOf(instance)
  const { sessions, kinds, kindOf, seats, accessible, together } = sittings
  const table = optionTable(instance, policy)
  const [objective, rows, binary]: [string[], string[], string[]] = [[], [], []]
  const uses = Array.from({ length: seats.length * 2 }, (): string[] => [])
  const inCity = (person: number, city: number) => (kinds[kindOf[person] ?? 0]?.ways ?? []).map((_, w) => `x${person}_${city}_${w}`)
  for (let person = 0; person < table.people; person += 1) {
    const names = [`u${person}`]
    objective.push(`${table.unseated} u${person}`)
    for (let city = 0; city < table.cities; city += 1) {
      if (costAt(table, person, city) >= closed) continue
      inCity(person, city).forEach((name, w) => {
        names.push(name)
        objective.push(`${costAt(table, person, city)} ${name}`)
        for (const column of kinds[kindOf[person] ?? 0]?.ways[w] ?? []) {
          uses[city * sessions.length + column]?.push(name)
          if (table.needs[person] === 1) uses[seats.length + city * sessions.length + sessionOf(sittings, column)]?.push(name)
        }
      })
    }
    binary.push(...names)
    rows.push(`${names.join(' + ')} = 1`)
  }
  for (const [first = 0, ...others] of together ?? []) {
    for (const other of others) {
      for (let city = 0; city < table.cities; city += 1) {
        const open = (person: number) => costAt(table, person, city) >= closed ? [] : inCity(person, city)
        if (open(first).length + open(other).length > 0) {
          rows.push(`${[...open(first).map(name => `+ ${name}`), ...open(other).map(name => `- ${name}`)].join(' ')} = 0`)
        }
      }
    }
  }
  uses.forEach((names, i) => {
    if (names.length > 0) rows.push(`${names.join('\n + ')} <= ${i < seats.length ? seats[i] : accessible[i - seats.length]}`)
  })
  const result = highs.solve(
    `Minimize\n obj: ${objective.join('\n + ')}\nSubject To\n ${rows.join('\n ')}\nBinary\n ${binary.join('\n ')}\nEnd`,
    { mip_rel_gap: 0, mip_abs_gap: 0 },
  )
  return Math.round(result.ObjectiveValue)
}

/** How much dearer placements are than the least there is: all together, and the worst of them. */
function overTheLeast(instances: Instance[], policy: AllocationPolicy): { together: number, worst: number } {
  let [over, sum, worst] = [0, 0, 0]
  for (const [i, instance] of instances.entries()) {
    const { cost, bound, standing } = allocate(instance, policy, () => true, 'thorough')
    const least = optimum(instance, policy)
    expect(standing).not.toBe('not certified')
    expect(bound, `instance ${i}`).toBeLessThanOrEqual(least)
    expect(cost, `instance ${i}`).toBeGreaterThanOrEqual(least)
    over += cost - least
    worst = Math.max(worst, (cost - least) / Math.max(1, least))
    sum += least % usualCosts.unseated
  }
  return { together: over / sum, worst }
}

const seeds = (most: number) => Array.from({ length: most }, (_, i) => i + 1)

describe('several test papers in a cycle', () => {
  it('are placed within the bound and close to the least there is', () => {
    expect(overTheLeast(seeds(30).map(seed => madeSittings(seed, 10 + 3 * seed, 2 + seed % 4, [1, 1.15, 1.4][seed % 3] ?? 1)), policy)
      .together).toBeLessThan(0.05)
  })

  it('so are people who come together, on seats some of which are kept, with cities closed to some', () => {
    // No seat at a lower price than usual, so that the rest of the cost is seen beside it.
    const over = overTheLeast(seeds(24).map(seed => madeParties(seed, 8 + 2 * seed, 3 + seed % 3, [0.9, 1.05, 1.3][seed % 3] ?? 1)), {
      ...policy,
      unseated: 2000,
    })
    expect(over.together).toBeLessThan(0.02)
    expect(over.worst).toBeLessThan(0.1)
  })

  it('keep every limit, all together who come together, every paper in a session of its own, at some size', () => {
    const instance = madeParties(5, 700, 7, 1.3)
    const { sessions, kinds, kindOf, seats, together = [] } = sittingsOf(instance)
    const { cityOf, sittings, cost, bound } = allocate(instance, policy, () => true, 'thorough')
    const used = new Int32Array(seats.length)
    cityOf.forEach((city, person) => {
      if (city === noCity) return
      const kind = kinds[kindOf[person] ?? 0]
      const way = kind?.ways[sittings?.wayOf[person] ?? 0] ?? []
      expect(way.length).toBe(kind?.papers.length)
      expect(new Set(way.map(column => sessionOf(sittingsOf(instance), column))).size).toBe(way.length)
      for (const column of way) used[city * sessions.length + column] = (used[city * sessions.length + column] ?? 0) + 1
    })
    used.forEach((n, at) => expect(n).toBeLessThanOrEqual(seats[at] ?? 0))
    expect(together.length).toBeGreaterThan(30)
    for (const members of together) expect(new Set(Array.from(members, person => cityOf[person])).size).toBe(1)
    expect((cost - bound) / bound).toBeLessThan(0.03)
  })

  it('refuse an order of turns where people are kept together', () => {
    expect(() => allocate(madeParties(1, 30, 3, 1), { ...policy, kind: 'first-come' })).toThrow('only the best fit')
  })
})
