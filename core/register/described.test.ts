import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { describeRegister, registerColumns, type RegisterCity, type RegisterColumn, type RegisterRow } from './described'

const stands: RegisterCity[] = [{
  code: 'port',
  title: 'Port',
  island: 'North',
  lat: -28.1,
  lon: -18.4,
  postalPrefix: '11',
  venues: [{ code: 'hall', title: 'Hall', address: '1 Quay', contact: 'Ann Tulle, 0555 01', rooms: [{ code: 'hall-1', title: 'Room 1' }] }],
}]
const known = {
  city_code: 'port',
  city: 'Port',
  island: 'North',
  latitude: '-28.10',
  longitude: '-18.4',
  postal_prefix: '11',
  venue_code: 'hall',
  venue: 'Hall',
  address: '1 Quay',
  contact: '',
  room_code: 'hall-1',
  room: 'Room 1',
  examination: '',
  seats: '',
  step_free_seats: '',
  unusable_seats: '',
}
const row = (more: Partial<Record<RegisterColumn, string>>, at = 2): RegisterRow => ({ at, cells: { ...known, ...more } })
const of = (...rows: RegisterRow[]) => describeRegister(rows, stands, 'HL27')

describe('a file of the register', () => {
  it('that says what stands changes nothing, numbers written otherwise included', () => {
    expect(of(row({}))).toEqual({ faults: [], changes: [], seats: [], ofOthers: 0 })
  })

  it('brings new places once, changed facts with what stood before, and seats for the examination in work only', () => {
    const { changes, seats, ofOthers, faults } = of(
      row({ address: '2 Quay', seats: '30', step_free_seats: '2', unusable_seats: '7, 12' }),
      row({ address: '2 Quay', room_code: 'hall-2', room: 'Room 2', seats: '20', examination: 'HL27' }, 3),
      row({ address: '2 Quay', seats: '99', examination: 'LK26' }, 4),
      row({ city_code: 'bay', city: 'Bay', postal_prefix: '12', venue_code: '', venue: '', address: '', room_code: '', room: '' }, 5),
    )
    expect(faults).toEqual([])
    expect(changes.map(
      ({ kind, code, isNew, facts }) => [kind, code, isNew, facts.map(fact => `${fact.column}: ${fact.before} → ${fact.after}`).join('; ')]
    )).toEqual([
      ['venue', 'hall', false, 'address: 1 Quay → 2 Quay'],
      ['room', 'hall-2', true, 'room:  → Room 2'],
      ['city', 'bay', true, 'city:  → Bay; island:  → North; latitude:  → -28.10; longitude:  → -18.4; postal_prefix:  → 12'],
    ])
    expect([seats, ofOthers]).toEqual([[{ room: 'hall-1', seats: 30, stepFree: 2, unusable: [7, 12] }, {
      room: 'hall-2',
      seats: 20,
      stepFree: 0,
      unusable: [],
    }], 1])
  })

  it.each<[Partial<Record<RegisterColumn, string>>, string]>([
    [{ city_code: 'Port' }, 'code city_code'],
    [{ city: '' }, 'empty city'],
    [{ latitude: '98' }, 'number latitude'],
    [{ longitude: '18,4' }, 'number longitude'],
    [{ postal_prefix: '1a' }, 'prefix postal_prefix'],
    [{ venue_code: '' }, 'empty venue_code'],
    [{ seats: '0' }, 'seats seats'],
    [{ seats: '3', step_free_seats: '4' }, 'seats step_free_seats'],
    [{ seats: '3', room_code: '' }, 'seats seats'],
    [{ seats: '3', unusable_seats: '2 4' }, 'seats unusable_seats'],
    [{ city_code: 'bay', city: 'Bay' }, 'prefix-taken postal_prefix'],
    [{ city_code: 'bay', city: 'Bay', postal_prefix: '12' }, 'elsewhere city_code'],
    [{ venue_code: 'new', venue: 'New' }, 'elsewhere venue_code'],
  ])('with %j is refused in that row', (more, wanted) => {
    const { faults, changes } = of(row(more))
    expect(faults.map(fault => `${fault.code} ${fault.column}`)).toContain(wanted)
    expect(changes).toEqual([])
  })

  it('that says two things of one code is refused where it says the second', () => {
    expect(of(row({}), row({ address: '9 Quay' }, 7)).faults).toEqual([{
      at: 7,
      code: 'otherwise',
      column: 'address',
      value: '9 Quay',
      other: '2',
    }])
  })

  it('never breaks on what stands in its cells', () => {
    fc.assert(fc.property(
      fc.array(fc
        .tuple(...registerColumns.map(() =>
          fc.oneof(fc.string({ maxLength: 8 }), fc.constantFrom('port', 'hall', 'hall-1', '11', '5', ''))
        ))),
      (rows) => {
        const described = of(...rows.map((cells, i) => ({
          at: i + 2,
          cells: Object.fromEntries(registerColumns.map((column, c) => [column, cells[c] ?? ''])) as RegisterRow['cells'],
        })))
        expect(described.changes.every(change => change.code !== '')).toBe(true)
      },
    ))
  })
})
