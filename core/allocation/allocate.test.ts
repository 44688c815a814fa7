import fc from 'fast-check'
import { createHash } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import { hard, makeInstance } from '../../bench/allocation-instances'
import { instanceOf, people, policy, tinyInstances } from '../../tests/support/instances'
import { allocate, Cancelled } from './allocate'
import { brokenLimit, lowerBound } from './certificate'
import { InstanceBuilder, noCity, type AllocationCity, type Instance } from './instance'
import { distances, optionTable } from './option-table'
import { choiceOf, outcomeOf } from './outcome'
import { policyFaults } from './policy'
import { RestrictedClasses } from './restrictions'
import { lotteryNumber } from './turn'

const city = (id: string, capacity: number, lon: number, accessibleCapacity = 0): AllocationCity => ({
  id,
  lat: 0,
  lon,
  capacity,
  accessibleCapacity,
})
const person = (id: string, home: number, choices: number[], more: { needs?: boolean, turn?: number, told?: number } = {}) => ({
  id,
  home,
  choices,
  needs: false,
  ...more,
})
const cityIds = (instance: Instance, cityOf: Uint16Array) => Array.from(cityOf, k => instance.cities[k]?.id ?? null)

describe('first come', () => {
  it('gives each the best open choice in the order of the time stamp, then the nearest city with room', () => {
    const instance = instanceOf({
      cities: [city('a', 1, 0), city('b', 1, 1), city('c', 1, 5), city('d', 1, 9)],
      people: [person('1', 0, [0], { turn: 30 }), person('2', 0, [0, 1], { turn: 20 }), person('3', 0, [0], { turn: 10 }),
        person('4', 0, [0], { turn: 40 })],
    }, p => (p as { turn?: number }).turn ?? 0)
    expect(cityIds(instance, allocate(instance, { ...policy, kind: 'first-come' }).cityOf)).toEqual(['c', 'b', 'a', 'd'])
  })

  it('seats people in need on accessible seats only, and leaves them without one when those are gone', () => {
    const instance = instanceOf({ cities: [city('a', 3, 0, 1)], people: [1, 2, 3].map(i => person(String(i), 0, [0], { needs: i < 3 })) })
    expect(cityIds(instance, allocate(instance, { ...policy, kind: 'first-come' }).cityOf)).toEqual(['a', null, 'a'])
  })

  it('passes nobody over: at each turn every better choice was full, and without a choice every nearer city', () => {
    fc.assert(
      fc.property(tinyInstances(6, 60), fc.constantFrom('first-come' as const, 'lottery' as const), (instance, kind) => {
        const { cityOf, order, standing, cost, bound } = allocate(instance, { ...policy, kind, seed: 5 })
        expect(cost).toBeGreaterThanOrEqual(bound)
        expect(standing).not.toBe('not certified')
        const [left, accessible] = [instance.cities.map(c => c.capacity), instance.cities.map(c => c.accessibleCapacity)]
        const km = distances(instance.cities)
        const all = people(instance)
        for (const i of order ?? []) {
          const one = all[i]
          if (!one) throw new Error('the order names somebody who is not there')
          const open = (k: number) => (left[k] ?? 0) > 0 && (!one.needs || (accessible[k] ?? 0) > 0)
          const got = cityOf[i] ?? noCity
          const place = one.choices.indexOf(got)
          expect(one.choices.slice(0, place < 0 ? undefined : place).some(open)).toBe(false)
          if (place < 0) {
            const nearer = instance.cities.map((_, k) => k).filter(k =>
              open(k)
              && (got === noCity || (km[one.home * instance.cities.length + k] ?? 0) < (km[one.home * instance.cities.length + got] ?? 0))
            )
            expect(nearer).toEqual([])
          }
          if (got === noCity) continue
          left[got] = (left[got] ?? 0) - 1
          if (one.needs) accessible[got] = (accessible[got] ?? 0) - 1
        }
      }),
      { numRuns: 80 },
    )
  })

  it('keeps those who were told where they are before anybody is served, when the policy says so', () => {
    const instance = instanceOf({
      cities: [city('a', 1, 0), city('b', 1, 1)],
      people: [person('1', 0, [0], { turn: 1 }), person('2', 0, [0], { turn: 2, told: 0 })],
    })
    expect(cityIds(instance, allocate(instance, { ...policy, kind: 'first-come', staying: 5 }).cityOf)).toEqual(['b', 'a'])
    expect(cityIds(instance, allocate(instance, { ...policy, kind: 'first-come' }).cityOf)).toEqual(['a', 'b'])
  })
})

describe('lottery', () => {
  it('draws by SHA-256 of seed and id, as node:crypto has it (FIPS 180-4)', () => {
    for (const id of ['HL27-0000001-5', 'Ö']) {
      expect(lotteryNumber(42, id)).toBe(Number.parseInt(createHash('sha256').update(`42:${id}`).digest('hex').slice(0, 12), 16))
    }
  })

  it('is the same for one seed, another for another, and does not care who came first', () => {
    const made = makeInstance({ people: 300, cities: 6, ...hard }, 3)
    const draw = (seed: number, instance = instanceOf(made)) => [...allocate(instance, { ...policy, kind: 'lottery', seed }).cityOf]
    expect(draw(1, instanceOf(made, (_, row) => -row))).toEqual(draw(1))
    expect(draw(1)).not.toEqual(draw(2))
  })
})

describe('best fit with told cities and closed cities', () => {
  it('moves nobody whose move saves less than its weight, and counts the weight of those it moves', () => {
    const instance = instanceOf({ cities: [city('a', 2, 0), city('b', 2, 1)], people: [person('1', 0, [0, 1], { told: 1 })] })
    expect(cityIds(instance, allocate(instance, { ...policy, staying: 2 }).cityOf)).toEqual(['b'])
    const moved = allocate(instance, { ...policy, choiceCosts: [0, 5], staying: 2 })
    expect([cityIds(instance, moved.cityOf), moved.cost, moved.standing]).toEqual([['a'], 2, 'certified'])
  })

  it('moves fewer the heavier staying weighs, always certified', () => {
    fc.assert(
      fc.property(tinyInstances(5, 40), fc.nat(1e6), (instance, seed) => {
        instance.told = Uint16Array.from(
          instance.ids,
          (_, i) => (i * 31 + seed) % 3 === 0 ? noCity : (i * 17 + seed) % instance.cities.length,
        )
        const moves = (staying: number) => {
          const { cityOf, standing } = allocate(instance, { ...policy, staying })
          expect(standing).toBe('certified')
          return cityOf.filter((k, i) => instance.told?.[i] !== noCity && instance.told?.[i] !== k).length
        }
        expect(moves(5000)).toBeLessThanOrEqual(moves(3))
      }),
      { numRuns: 60 },
    )
  })

  it('sends nobody of a class to a city closed to it, even when no other has room', () => {
    fc.assert(
      fc.property(tinyInstances(4, 30), (instance) => {
        const cities = instance.cities.length
        // The first city is closed to the second class: a paper that is not held there.
        instance.bars = {
          classOf: Uint16Array.from(instance.ids, (_, i) => i % 2),
          classes: 2,
          closed: Uint8Array.from({ length: 2 * cities }, (_, i) => i === cities ? 1 : 0),
        }
        for (const kind of ['best-fit', 'first-come'] as const) {
          const { cityOf, standing } = allocate(instance, { ...policy, kind })
          expect(cityOf.some((k, i) => i % 2 === 1 && k === 0)).toBe(false)
          expect(standing).not.toBe('not certified')
        }
      }),
      { numRuns: 60 },
    )
  })
})

describe('restrictions of a notice', () => {
  const places = [city('a', 9, 0), city('b', 9, 2), city('c', 9, 9)]
  const restrictions = [{ title: 'no workshop', closedCities: ['a'] }, { title: 'near home', closedCities: [], withinKm: 300 }]

  it('close cities to those they hold for, and keep people near home', () => {
    const classes = new RestrictedClasses(restrictions)
    const builder = new InstanceBuilder(places, 5, 'row')
    // Nothing holds, the first, the second, both; the last two live in b.
    for (const [i, held] of [0, 1, 2, 3].entries()) {
      builder.add({
        id: String(i),
        home: i < 2 ? 0 : 1,
        choices: [i === 2 ? 2 : 0],
        needs: false,
        turn: i,
        class: classes.classOf(held, i < 2 ? 'a' : 'b'),
      })
    }
    const { cityOf, standing } = allocate(builder.build(classes.bars(builder.cities)), policy)
    expect([cityIds({ ...instanceOf({ cities: places, people: [] }) }, cityOf), standing]).toEqual([['a', 'b', 'b', 'b'], 'certified'])
  })

  it('bar nothing where nothing is closed to anybody', () => {
    const classes = new RestrictedClasses(restrictions)
    classes.classOf(0, 'a')
    expect(classes.bars(places)).toBeUndefined()
    expect([classes.classOf(2, 'a'), classes.classOf(2, 'b'), classes.classOf(1, 'a'), classes.classOf(1, 'b')]).toEqual([1, 2, 3, 3])
  })
})

describe('a run', () => {
  it('stops when the watch says so', () => {
    const instance = instanceOf(makeInstance({ people: 2000, cities: 10, ...hard }, 1))
    expect(() => allocate(instance, policy, () => false)).toThrow(Cancelled)
    const seen: number[] = []
    allocate(instance, policy, (done, total) => {
      seen.push(done / total)
      return true
    })
    expect(seen.at(-1)).toBe(1)
    expect([...seen].sort((a, b) => a - b)).toEqual(seen)
  })

  it('counts people once: by choice, off the list and without a seat; by distance; by city', () => {
    fc.assert(
      fc.property(tinyInstances(5, 50), (instance) => {
        const allocation = allocate(instance, policy)
        const outcome = outcomeOf(instance, allocation)
        const sum = (numbers: number[]) => numbers.reduce((a, b) => a + b, 0)
        expect(sum(outcome.byChoice) + outcome.offList + outcome.unseated).toBe(instance.ids.length)
        expect(sum(outcome.byDistance)).toBe(instance.ids.length - outcome.unseated)
        expect(sum(outcome.cities.map(c => c.placed))).toBe(instance.ids.length - outcome.unseated)
        expect(sum(outcome.cities.map(c => c.placedFirst))).toBe(outcome.byChoice[0])
        expect(sum(outcome.cities.map(c => c.firstChoice))).toBe(instance.ids.length)
        expect(allocation.cityOf.every((k, i) =>
          choiceOf(instance, i, k) === null || instance.choices[i * instance.slots + (choiceOf(instance, i, k) ?? 1) - 1] === k
        )).toBe(true)
      }),
      { numRuns: 60 },
    )
  })

  it('is bounded from below whatever the prices are, and a broken limit is named', () => {
    fc.assert(
      fc.property(tinyInstances(4, 30), fc.array(fc.nat(50), { minLength: 8, maxLength: 8 }), (instance, prices) => {
        const table = optionTable(instance, policy)
        const k = instance.cities.length
        const any = { seat: Float64Array.from(prices.slice(0, k)), accessibleSeat: Float64Array.from(prices.slice(4, 4 + k)) }
        expect(lowerBound(table, any)).toBeLessThanOrEqual(allocate(instance, policy).cost)
      }),
      { numRuns: 60 },
    )
    const instance = instanceOf({ cities: [city('a', 1, 0, 0)], people: [person('1', 0, [0]), person('2', 0, [0], { needs: true })] })
    expect(brokenLimit(optionTable(instance, policy), Uint16Array.of(0, 0))).toContain('2 people on 1 seats')
    expect(brokenLimit(optionTable(instance, policy), Uint16Array.of(noCity, 0))).toContain('1 people in need on 0')
  })

  it('refuses a policy that makes no sense, naming value and bound', () => {
    const faults = (change: object) => policyFaults({ ...policy, ...change }).join('; ')
    expect(faults({})).toBe('')
    expect(faults({ choiceCosts: [0, 3, 1] })).toContain('choice 3 costs 1, choice 2 costs 3')
    expect(faults({ choiceCosts: [] })).toContain('no choice costs')
    expect(faults({ offListBase: 9 })).toContain("9 is below the last choice's cost 10")
    expect(faults({ unseated: 1020 })).toContain('not above the farthest city off the list, 1020')
    expect(faults({ unseated: 60_000_000 })).toContain('from 0 to 50000000')
    expect(faults({ seed: -1, staying: 0.5 })).toMatch(/seed is -1.*staying is 0.5/)
    const instance = instanceOf({ cities: [city('a', 1, 0)], people: [person('1', 0, [0])] })
    expect(() => allocate(instance, { ...policy, offListBase: 1 })).toThrow(RangeError)
  })
})
