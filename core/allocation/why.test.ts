import { describe, expect, it } from 'vitest'
import { hard, makeInstance } from '../../bench/allocation-instances'
import { instanceOf, people, policy } from '../../tests/support/instances'
import { whyWords } from '../words/en/allocation'
import { allocate } from './allocate'
import { everyDay, forecast, shortSince } from './demand'
import { linesOf } from './lines'
import { noCity } from './instance'

import { outcomeOf } from './outcome'
import type { PolicyKind } from './policy'
import { whyHere, type RunFacts } from './why'

/** A run with its facts as they are kept, and a way to ask about one of its people. */
function kept(kind: PolicyKind, shape: object = {}) {
  const instance = instanceOf(makeInstance({ people: 600, cities: 8, ...hard, ...shape }, 11))
  const allocation = allocate(instance, { ...policy, kind })
  const outcome = outcomeOf(instance, allocation)
  const facts: RunFacts = {
    cities: instance.cities,
    policy: { ...policy, kind },
    prices: allocation.prices,
    lines: linesOf(instance, { ...policy, kind }, allocation),
    placed: new Map(outcome.cities.map(c => [c.city, { all: c.placed, inNeed: c.placedInNeed }])),
  }
  const name = (k: number | undefined) => k === undefined || k === noCity ? null : instance.cities[k]?.id ?? null
  const all = people(instance).map((p, i) => ({
    id: p.id,
    home: name(p.home) ?? '',
    choices: p.choices.map(k => name(k) ?? ''),
    needs: p.needs,
    city: name(allocation.cityOf[i]),
    place: allocation.order ? allocation.order.indexOf(i) + 1 : null,
  }))
  return { all, facts, outcome, instance }
}

describe('why here', () => {
  it('finds under best fit that everyone with more to lose than the price sits there, and nobody with less', () => {
    const { all, facts } = kept('best-fit')
    for (const person of all) {
      for (const passed of whyHere(person, facts).before) {
        if (passed.why.by !== 'stake') throw new Error(`${person.id}: ${passed.why.by}`)
        expect(passed.why.own).toBeLessThanOrEqual(passed.why.bar)
        expect(passed.why.seated).toBeGreaterThan(0)
      }
    }
    for (const { ordinary } of facts.lines) {
      if (ordinary.by !== 'stake') throw new Error('lines of another policy')
      for (const step of ordinary.steps) {
        if (step.stake > ordinary.bar) expect(step.waiting).toBe(0)
        if (step.stake < ordinary.bar) expect(step.seated).toBe(0)
      }
    }
  })

  it("finds under first come that each choice passed over had closed before the person's number", () => {
    const { all, facts } = kept('first-come')
    const off = all.filter(p => p.city !== p.choices[0])
    expect(off.length).toBeGreaterThan(20)
    for (const person of off) {
      for (const { why } of whyHere(person, facts).before) {
        if (why.by !== 'turn') throw new Error(why.by)
        expect(why.closedAt).toBeLessThan(why.own)
      }
    }
  })

  it('says what would have had to be different, and it is so: a further choice that was named is got', () => {
    const { all, facts, instance } = kept('first-come', { over: 1.2, room: 1.3 })
    const asked = all.filter(p => whyHere(p, facts).hadTheyNamed.length > 0).slice(0, 5)
    expect(asked.length).toBeGreaterThan(0)
    for (const person of asked) {
      const [better] = whyHere(person, facts).hadTheyNamed
      const rows = people(instance).map((p, i) =>
        all[i]?.id === person.id ? { ...p, choices: [...p.choices, instance.cities.findIndex(c => c.id === better?.city)] } : p
      )
      const again = instanceOf({ cities: instance.cities, people: rows })
      const { cityOf } = allocate(again, facts.policy)
      expect(again.cities[cityOf[again.ids.indexOf(person.id)] ?? noCity]?.id).toBe(better?.city)
    }
  })

  it('is told in words fit for a letter, with the figures in them', () => {
    const title = (id: string) => id.replace('C00', 'Town ')
    const { all, facts } = kept('first-come', { over: 1.2 })
    const off = all.find(p => p.city !== null && !p.choices.includes(p.city))
    if (!off) throw new Error('everyone is on the list')
    const words = whyWords(whyHere(off, facts), title).join('\n')
    expect(words).toMatch(/^Your test city is Town \d, \d+ km from your home city\. It is not on your list\./)
    expect(words).toMatch(/The last was taken by number \d+ in line; you were number \d+/)
    const first = all.find(p => p.city === p.choices[0])
    expect(first && whyWords(whyHere(first, facts), title)).toEqual([expect.stringContaining('your first choice'),
      'It is the city you asked for first.'])
    const best = kept('best-fit', { over: 1.2 })
    const second = best.all.find(p => p.city === p.choices[1])
    expect(second && whyWords(whyHere(second, best.facts), title).join(' '))
      .toMatch(/Seats went to those who would have lost most.*more seats? there would have been needed/s)
  })

  it('tells somebody who is moved why the city told before could not be kept', () => {
    const { all, facts } = kept('best-fit', { over: 1.2 })
    const person = all.find(p => !p.needs && p.city !== null && p.city === p.choices[1])
    const full = person?.choices[0] ?? ''
    if (!person) throw new Error('nobody has their second choice')
    const why = whyHere({ ...person, told: full }, facts)
    expect(why.movedFrom).toMatchObject({ city: full, choice: 1, why: { by: 'stake' } })
    expect(whyWords(why, id => id).join(' ')).toContain(`Before this you were told ${full}.`)
    expect(whyHere({ ...person, told: person.city }, facts).movedFrom).toBeNull()
  })

  it('names a closed city as closed, and refuses a city that the run does not know', () => {
    const { all, facts } = kept('best-fit')
    const [person] = all
    if (!person) throw new Error('nobody')
    const cities = facts.cities.length
    const closed = Uint8Array.from({ length: cities }, (_, k) => facts.cities[k]?.id === person.choices[0] ? 1 : 0)
    const why = whyHere({ ...person, city: null }, { ...facts, bars: { classes: 1, closed } })
    expect(why.before[0]?.why).toEqual({ by: 'closed' })
    expect(whyHere({ ...person, city: null }, { ...facts, bars: { classes: 1, closed: new Uint8Array(cities).fill(1) } }).hadTheyNamed)
      .toEqual([])
    expect(whyWords(why, id => id)[0]).toContain('No seat could be found')
    expect(() => whyHere({ ...person, home: 'atlantis' }, facts)).toThrow('"atlantis"')
  })
})

describe('demand over the days', () => {
  const days = (counts: number[]) => counts.map((count, i) => ({ day: `2026-11-${String(i + 1).padStart(2, '0')}`, count }))

  it('foresees even days exactly in the middle, with a range that grows as the root of the days left', () => {
    const even = days(Array.from({ length: 14 }, () => 100))
    const four = forecast(even, 1400, 4)
    // 400 more; Poisson scatter of 400 is 20; 95th percentile 1.645 of it (common practice, no source).
    expect(four).toEqual({ low: 1767, middle: 1800, high: 1833 })
    const one = forecast(even, 1400, 1)
    expect(((four?.high ?? 0) - 1800) / ((one?.high ?? 0) - 1500)).toBeCloseTo(2, 0)
    expect(forecast(even, 1400, 0)).toEqual({ low: 1400, middle: 1400, high: 1400 })
  })

  it('widens with uneven days and says nothing on two', () => {
    const uneven = forecast(days([10, 190, 10, 190, 10, 190, 10, 190]), 800, 4)
    expect((uneven?.high ?? 0) - (uneven?.low ?? 0)).toBeGreaterThan(4 * 66)
    expect(forecast(days([5, 5]), 10, 4)).toBeNull()
  })

  it('tells the day on which a city became short, counting days without any', () => {
    const counted = everyDay(new Map([['a1', 3], ['a3', 4]]), 'a1', 'a4', day => `a${Number(day.slice(1)) + 1}`)
    expect(counted.map(d => d.count)).toEqual([3, 0, 4, 0])
    expect([shortSince(counted, 2), shortSince(counted, 3), shortSince(counted, 7)]).toEqual(['a1', 'a3', null])
  })
})
