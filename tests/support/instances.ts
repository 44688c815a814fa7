import fc from 'fast-check'
import { type AllocationCity, type Instance, InstanceBuilder, noCity, type Person } from '../../core/allocation/instance'
import { usualCosts, type AllocationPolicy } from '../../core/allocation/policy'
import { makeInstance } from '../../bench/allocation-instances'

/** Instances for tests of the allocation. */
export const policy: AllocationPolicy = { kind: 'best-fit', seed: 0, staying: 0, ...usualCosts }

type Made = { cities: readonly AllocationCity[], people: Iterable<Omit<Person, 'turn'> & { turn?: number }> }

/** Rows as an instance. Cities are named by their place in `cities`, which may stand in any order. */
export function instanceOf({ cities, people }: Made, turn?: (person: Omit<Person, 'turn'>, row: number) => number): Instance {
  const builder = new InstanceBuilder(cities, 5, turn ? 'instant' : 'row')
  const place = (k: number) => builder.cityAt(cities[k]?.id ?? '') ?? noCity
  let row = 0
  for (const person of people) {
    const { told } = person
    builder.add({
      ...person,
      home: place(person.home),
      choices: person.choices.map(place),
      turn: turn?.(person, row) ?? person.turn ?? row,
      ...(told !== undefined && { told: place(told) }),
    })
    row += 1
  }
  return builder.build()
}

/** The people of an instance as rows. */
export function people(instance: Instance): Person[] {
  return instance.ids.map((id, i) => ({
    id,
    home: instance.home[i] ?? 0,
    choices: [...instance.choices.subarray(i * instance.slots, (i + 1) * instance.slots)].filter(k => k !== noCity),
    needs: instance.needs[i] === 1,
    turn: instance.turn[i] ?? 0,
  }))
}

/** The same instance with more seats in a city. */
export function seats(instance: Instance, city: number, more: Partial<Record<'capacity' | 'accessibleCapacity', number>>): Instance {
  return {
    ...instance,
    cities: instance.cities.map((c, k) =>
      k === city
        ? { ...c, capacity: c.capacity + (more.capacity ?? 0), accessibleCapacity: c.accessibleCapacity + (more.accessibleCapacity ?? 0) }
        : c
    ),
  }
}

/** Small instances of every kind, from far too few seats to plenty. */
export function tinyInstances(cities: number, people: number): fc.Arbitrary<Instance> {
  return fc.record({
    cities: fc.integer({ min: 1, max: cities }),
    people: fc.integer({ min: 1, max: people }),
    seed: fc.nat(1e6),
    room: fc.constantFrom(0.6, 0.9, 1, 1.1, 1.7),
    over: fc.constantFrom(0.2, 0.5, 2),
    needing: fc.constantFrom(0, 0.3),
    accessibleRoom: fc.constantFrom(0.5, 1, 2),
  }).map(({ seed, ...shape }) => instanceOf(makeInstance(shape, seed)))
}
