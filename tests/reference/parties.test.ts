import fc from 'fast-check'
import loadHighs from 'highs'
import { describe, expect, it } from 'vitest'
import { partyBound } from '../../core/allocation/parties/bound'
import { brokenLimits, partyFaults, partyModel, type PartyInstance, type PartyModel } from '../../core/allocation/parties/model'
import { placeParties } from '../../core/allocation/parties/place'
import { usualCosts } from '../../core/allocation/policy'
import { allocate } from '../../core/allocation/allocate'
import { Random } from '../../demo/random'
import { madeParties } from '../../bench/party-instances'
import { instanceOf, policy } from '../support/instances'
import { madeSittings } from '../../bench/sitting-instances'
import type { Instance } from '../../core/allocation/instance'
import { costAt, optionTable } from '../../core/allocation/option-table'

const highs = await loadHighs()

/** The whole-number programme of a model: a variable for each party and city, and for each member and way. */
function optimum({ parties, limits, cities, unseated }: PartyModel): number {
  const objective: string[] = []
  const rows: string[] = []
  const binary: string[] = []
  const uses: string[][] = Array.from(limits, () => [])
  parties.forEach((party, i) => {
    const open = Array.from({ length: cities }, (_, k) => k).filter(k => party.cost[k] !== Infinity)
    objective.push(`${unseated * party.members.length} u${i}`, ...open.map(k => `${party.cost[k]} x${i}_${k}`))
    rows.push(`${[`u${i}`, ...open.map(k => `x${i}_${k}`)].join(' + ')} = 1`)
    binary.push(`u${i}`, ...open.map(k => `x${i}_${k}`))
    for (const k of open) {
      party.ways.forEach((ofCity, m) => {
        const names = (ofCity[k] ?? []).map((_, w) => `y${i}_${m}_${k}_${w}`)
        binary.push(...names)
        rows.push(`${names.join(' + ')} - x${i}_${k} = 0`)
        ofCity[k]?.forEach((way, w) => way.uses.forEach(limit => uses[limit]?.push(names[w] ?? '')))
      })
    }
  })
  limits.forEach((seats, limit) => {
    if (uses[limit]?.length) rows.push(`${uses[limit].join('\n + ')} <= ${seats}`)
  })
  const result = highs.solve(`Minimize\n obj: ${objective.join('\n + ')}\nSubject To\n ${rows.join('\n ')}\nBinary\n ${binary.join('\n ')}\nEnd`, { mip_rel_gap: 0, mip_abs_gap: 0 })
  return Math.round(result.ObjectiveValue)
}

/** The least cost of people who sit several test papers: a variable for each person, city and way. */
function leastOfSittings(instance: Instance): number {
  if (!instance.sittings) throw new Error('nobody sits test papers')
  const { sessions, kinds, kindOf, seats, accessible } = instance.sittings
  const table = optionTable(instance, policy)
  const [objective, rows, binary]: [string[], string[], string[]] = [[], [], []]
  const uses = Array.from({ length: seats.length * 2 }, (): string[] => [])
  for (let person = 0; person < table.people; person += 1) {
    const names = [`u${person}`]
    objective.push(`${table.unseated} u${person}`)
    for (let k = 0; k < table.cities; k += 1) {
      kinds[kindOf[person] ?? 0]?.ways.forEach((way, w) => {
        const name = `x${person}_${k}_${w}`
        names.push(name)
        objective.push(`${costAt(table, person, k)} ${name}`)
        for (const s of way) {
          uses[k * sessions.length + s]?.push(name)
          if (table.needs[person] === 1) uses[seats.length + k * sessions.length + s]?.push(name)
        }
      })
    }
    binary.push(...names)
    rows.push(`${names.join(' + ')} = 1`)
  }
  uses.forEach((names, i) => {
    if (names.length > 0) rows.push(`${names.join('\n + ')} <= ${i < seats.length ? seats[i] : accessible[i - seats.length]}`)
  })
  const result = highs.solve(`Minimize\n obj: ${objective.join('\n + ')}\nSubject To\n ${rows.join('\n ')}\nBinary\n ${binary.join('\n ')}\nEnd`, { mip_rel_gap: 0, mip_abs_gap: 0 })
  return Math.round(result.ObjectiveValue)
}

describe('several test papers in a cycle', () => {
  it('are placed within the bound and close to the least there is, as HiGHS finds it', () => {
    let over = 0
    let sum = 0
    for (let seed = 1; seed <= 30; seed += 1) {
      const instance = madeSittings(seed, 10 + 3 * seed, 2 + seed % 4, [1, 1.15, 1.4][seed % 3] ?? 1)
      const { cost, bound } = allocate(instance, policy)
      const least = leastOfSittings(instance)
      expect(bound, `seed ${seed}`).toBeLessThanOrEqual(least)
      expect(cost, `seed ${seed}`).toBeGreaterThanOrEqual(least)
      // As many people have a seat as can have one.
      expect(Math.floor(cost / policy.unseated), `seed ${seed}`).toBe(Math.floor(least / policy.unseated))
      over += cost % policy.unseated - least % policy.unseated
      sum += least % policy.unseated
    }
    expect(over / sum).toBeLessThan(0.05)
  })
})

describe('several papers, parties, reserved seats', () => {
  it('lie between the proven bound and close above the least there is, as HiGHS (npm `highs`) finds it', () => {
    let worst = 0
    for (let seed = 1; seed <= 24; seed += 1) {
      const instance = madeParties(seed, 8 + seed, 3 + seed % 3, [0.9, 1.05, 1.3][seed % 3] ?? 1)
      // No seat at a lower price than usual, so that the rest of the cost is seen beside it.
      const costs = { ...usualCosts, unseated: 2000 }
      const result = placeParties(instance, costs)
      const least = optimum(partyModel(instance, costs))
      expect(result.bound, `seed ${seed}`).toBeLessThanOrEqual(least)
      expect(result.cost, `seed ${seed}`).toBeGreaterThanOrEqual(least)
      expect(result.standing).not.toBe('not certified')
      // Unseated people weigh a million: what is above the least is seen against the rest.
      const over = (result.cost - least) / Math.max(1, least)
      worst = Math.max(worst, over)
    }
    expect(worst).toBeLessThan(0.1)
  })

  it('keep every limit, every party together, every paper in a session of its own, at some size', () => {
    const instance = madeParties(5, 1500, 10, 1.05)
    const result = placeParties(instance, usualCosts)
    expect(result.standing).not.toBe('not certified')
    const used = new Int32Array(instance.capacity.length)
    instance.people.forEach((person, i) => {
      const city = result.city[i] ?? -1
      if (city < 0) return
      expect(result.sessions[i]?.length).toBe(person.papers.length)
      expect(new Set(result.sessions[i]).size).toBe(person.papers.length)
      person.papers.forEach((paper, j) => {
        const session = result.sessions[i]?.[j] ?? -1
        expect(instance.papers[paper]?.sessions).toContain(session)
        expect(instance.papers[paper]?.closedCities).not.toContain(city)
        used[city * 3 + session] = (used[city * 3 + session] ?? 0) + 1
      })
    })
    used.forEach((n, at) => expect(n).toBeLessThanOrEqual(instance.capacity[at] ?? 0))
    for (const party of new Set(instance.people.map(p => p.party).filter(p => p !== null))) {
      expect(new Set(instance.people.flatMap((p, i) => p.party === party ? [result.city[i]] : [])).size).toBe(1)
    }
  })

  it('cost what the exact solver finds when nobody sits more than one paper or comes with others, within the gap told', () => {
    fc.assert(fc.property(fc.nat(1e6), (seed) => {
      const random = new Random(seed)
      const cities = Array.from({ length: 4 }, (_, k) => ({ id: `c${k}`, lat: 0, lon: k, capacity: random.whole(3, 9), accessibleCapacity: 2 }))
      const rows = Array.from({ length: 22 }, (_, i) => ({ id: `p${100 + i}`, home: random.whole(0, 3), choices: [...new Set([random.whole(0, 3), random.whole(0, 3)])], needs: random.chance(0.2) }))
      const exact = allocate(instanceOf({ cities, people: rows }), policy)
      const result = placeParties({
        cities, sessions: ['only'], collisions: [], capacity: Int32Array.from(cities, c => c.capacity), accessible: Int32Array.from(cities, c => c.accessibleCapacity), reserved: [], nearHome: [],
        papers: [{ id: 'p', sessions: [0], closedCities: [] }], people: rows.map(r => ({ ...r, papers: [0], tags: [], party: null })),
      }, usualCosts)
      expect(result.cost).toBeGreaterThanOrEqual(exact.cost)
      expect(result.bound).toBeLessThanOrEqual(exact.cost)
    }), { numRuns: 40 })
  })

  it('do not depend on the order of the people, and a bound holds at any prices', () => {
    const instance = madeParties(9, 60, 4, 1)
    const result = placeParties(instance, usualCosts)
    const again = placeParties({ ...instance, people: [...instance.people].reverse() }, usualCosts)
    expect([...again.city].reverse()).toEqual([...result.city])
    const model = partyModel(instance, usualCosts)
    for (let steps = 0; steps < 30; steps += 7) expect(partyBound(model, result.cost, steps + 1).bound).toBeLessThanOrEqual(result.cost)
    expect(brokenLimits(model, { city: new Int32Array(model.parties.length), ways: model.parties.map(p => p.members.map(() => ({ sessions: [0], uses: [0] }))) })).toEqual([0])
  })

  it('name what is wrong with what was given', () => {
    const instance = madeParties(1, 3, 2, 1)
    const [first] = instance.people
    if (!first) throw new Error('nobody')
    const bad: PartyInstance = { ...instance, accessible: instance.capacity.map(n => n + 1), papers: [...instance.papers, { id: 'none', sessions: [], closedCities: [] }], reserved: [{ city: 0, session: 0, for: 'law', seats: 999 }], people: [{ ...first, papers: [] }] }
    const faults = partyFaults(bad).join('\n')
    for (const part of ['accessible seats are more than all', 'paper none is held in no session', '999 reserved seats', `candidate ${first.id} sits no paper`]) expect(faults).toContain(part)
    expect(() => placeParties(bad, usualCosts)).toThrow(RangeError)
    expect(() => placeParties(instance, { ...usualCosts, unseated: 3 })).toThrow('not above')
  })
})
