import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { policy } from '../../tests/support/instances'
import { allocate } from './allocate'
import { InstanceBuilder, noCity, type Instance } from './instance'
import {
  columnsOf,
  keptOf,
  partsOfColumn,
  setApart,
  sittingsOf,
  waysWithKept,
  withUnusedOpened,
  type KeptSeats,
  type SeatRow,
} from './kept'

/** People who sit once in any of some sessions: the city they name first, and the groups that they belong to. */
interface Case {
  sessions: string[]
  free: SeatRow[]
  kept: KeptSeats[]
  people: { first: number, groups: number, needs: boolean }[]
}

const cityIds = ['a', 'b', 'c']
const cases: fc.Arbitrary<Case> = fc.record({
  seats: fc.array(fc.nat(4), { minLength: 6, maxLength: 6 }),
  two: fc.boolean(),
  kept: fc.array(
    fc.record({
      seats: fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 3, maxLength: 3 }),
      unused: fc.constantFrom('open to all' as const, 'stay empty' as const),
    }),
    { maxLength: 2 },
  ),
  people: fc.array(fc.record({ first: fc.nat(2), groups: fc.nat(3), needs: fc.boolean() }), { minLength: 1, maxLength: 24 }),
}).map(({ seats, two, kept, people }) => {
  const sessions = two ? ['one', 'two'] : ['one']
  return {
    sessions,
    people,
    kept: kept.map((one, i) => ({
      title: `group ${i}`,
      unused: one.unused,
      seats: one.seats.map((n, k) => ({ city: cityIds[k]!, seats: n })),
    })),
    free: cityIds.flatMap((id, k) =>
      sessions.map((session, s) => ({ city: id, session, seats: seats[k * 2 + s]!, accessibleSeats: Math.floor(seats[k * 2 + s]! / 2) }))
    ),
  }
})

function instanceOf({ sessions, kept, people }: Case, rows: readonly SeatRow[]): Instance {
  const sum = (id: string, of: 'seats' | 'accessibleSeats') => rows.reduce((n, row) => row.city === id ? n + row[of] : n, 0)
  const builder = new InstanceBuilder(
    cityIds.map((id, k) => ({ id, lat: 9, lon: k, capacity: sum(id, 'seats'), accessibleCapacity: sum(id, 'accessibleSeats') })),
    3,
    'row',
  )
  const held = [...new Set(people.map(one => one.groups))]
  const kinds = held.map(groups => ({
    papers: [''],
    ways: waysWithKept(sessions.map((_, s) => [s]), sessions.length, kept.length, groups),
  }))
  people.forEach(({ first, groups, needs }, i) =>
    builder.add({
      id: String(i).padStart(3, '0'),
      home: first,
      choices: [first, (first + 1) % 3, (first + 2) % 3],
      needs,
      turn: i,
      kind: held.indexOf(groups),
    })
  )
  return builder.build(undefined, sittingsOf({ cities: builder.cities, sessions: sessions.map(id => ({ id })) }, kinds, rows, kept.length))
}

/** How many sit in a city and session whom a test of their groups fits. */
function sitting(
  instance: Instance,
  { cityOf, sittings }: ReturnType<typeof allocate>,
  people: Case['people'],
  id: string,
  session: string,
  fits: (groups: number) => boolean,
): number {
  const { kinds, kindOf, sessions } = instance.sittings!
  return cityOf.reduce((n, k, i) =>
    k !== noCity && instance.cities[k]!.id === id && fits(people[i]!.groups)
      && partsOfColumn(sessions[kinds[kindOf[i]!]!.ways[sittings!.wayOf[i]!]![0]!]!).session === session
      ? n + 1
      : n, 0)
}

describe('seats kept for some', () => {
  it('are taken by nobody else under any policy, and every placement still fits once those left over are opened', () => {
    fc.assert(
      fc.property(cases, fc.constantFrom('best-fit' as const, 'first-come' as const), (made, kind) => {
        const { free, kept, people } = made
        const rows = setApart(free, kept)
        const instance = instanceOf(made, rows)
        const placed = allocate(instance, { ...policy, kind })
        // Everybody sits once: the best fit is exact.
        expect(placed.standing).toBe(kind === 'best-fit' || placed.cost === placed.bound ? 'certified' : 'by policy')
        const again = withUnusedOpened(instance, placed, rows, kept)
        const opened = again?.free ?? null
        if (kept.every(one => one.unused === 'stay empty')) expect(opened).toBeNull()
        for (const { city: id, session, seats } of free) {
          const of = (all: readonly SeatRow[], group: number | null) =>
            all.find(row => row.city === id && row.session === columnsOf([session], kept.length)[group === null ? 0 : group + 1])?.seats
              ?? 0
          const total = (all: readonly SeatRow[]) => [null, ...kept.keys()].reduce((n: number, group) => n + of(all, group), 0)
          const outsiders = sitting(instance, placed, people, id, session, groups => kept.every((_, g) => (groups >> g & 1) === 0))
          expect(total(rows)).toBe(seats)
          expect(outsiders).toBeLessThanOrEqual(of(rows, null))
          if (!opened) continue
          expect(total(opened)).toBe(seats)
          expect(outsiders).toBeLessThanOrEqual(of(opened, null))
          kept.forEach(({ unused }, g) => {
            expect(of(opened, g)).toBeLessThanOrEqual(of(rows, g))
            if (unused === 'stay empty') expect(of(opened, g)).toBe(of(rows, g))
            // Whoever is of this group alone has a kept seat of it counted, wherever they sit: nobody else may come to sit there.
            const members = sitting(instance, placed, people, id, session, groups => (groups & (1 << kept.length) - 1) === 1 << g)
            expect(of(opened, g)).toBeGreaterThanOrEqual(Math.min(members, of(rows, g)))
          })
          // Everybody finds a seat where they sit now: however groups are taken together, their people fit on the seats that are open to
          // them (Hall's condition).
          for (let some = 0; some < 1 << kept.length; some += 1) {
            const inside = sitting(instance, placed, people, id, session, groups => (groups & (1 << kept.length) - 1 & ~some) === 0)
            expect(inside).toBeLessThanOrEqual([...kept.keys()].reduce((n, g) => some >> g & 1 ? n + of(opened, g) : n, of(opened, null)))
          }
        }
        // So placing everybody anew costs no more.
        if (again) expect(allocate(again.instance, policy).cost).toBeLessThanOrEqual(placed.cost)
      }),
      { numRuns: 120, endOnFailure: true },
    )
  })

  // Worked by hand: three seats in a city that all want, one of them kept for islanders. The fourth in line is an islander.
  const three = (unused: KeptSeats['unused']): KeptSeats[] => [{ title: 'islanders', seats: [{ city: 'a', seats: 1 }], unused }]
  const line = (last: number): Case => ({
    sessions: ['one'],
    kept: three('open to all'),
    people: [0, 0, 0, last].map(groups => ({ first: 0, groups, needs: false })),
    free: ['a', 'b', 'c'].map((id, k) => ({ city: id, session: 'one', seats: k === 0 ? 3 : 5, accessibleSeats: 0 })),
  })
  const inA = (made: Case, rows: readonly SeatRow[]) => {
    const instance = instanceOf(made, rows)
    const placed = allocate(instance, { ...policy, kind: 'first-come' })
    return { instance, placed, who: [...placed.cityOf].flatMap((k, i) => k === 0 ? [i] : []) }
  }

  it('go to the last in line of theirs, and not to the third of the others', () => {
    const made = line(1)
    const rows = setApart(made.free, made.kept)
    const { instance, placed, who } = inA(made, rows)
    expect([who, withUnusedOpened(instance, placed, rows, made.kept)]).toEqual([[0, 1, 3], null])
  })

  it('are opened when nobody of theirs comes, or stay empty, as the notice says', () => {
    const made = line(0)
    const rows = setApart(made.free, made.kept)
    const { instance, placed, who } = inA(made, rows)
    const opened = withUnusedOpened(instance, placed, rows, made.kept)
    expect([who, opened && inA(made, opened.free).who, withUnusedOpened(instance, placed, rows, three('stay empty'))]).toEqual([[0, 1], [0,
      1, 2], null])
    expect(keptOf(made.kept, rows, opened?.free ?? rows)).toEqual([{ title: 'islanders', cities: [{ city: 'a', kept: 1, opened: 1 }] }])
  })

  it('are fewer by those that people of theirs have already, and no more than there are', () => {
    const seats = (free: number, kept: number, had: number) =>
      setApart([{ city: 'a', session: 'one', seats: free, accessibleSeats: 0 }], [{
        ...three('stay empty')[0]!,
        seats: [{ city: 'a', seats: kept }],
      }], () => had).map(row => row.seats)
    expect([seats(5, 2, 0), seats(5, 2, 1), seats(5, 2, 3), seats(1, 2, 0)]).toEqual([[3, 2], [4, 1], [5], [0, 1]])
  })
})
