import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { placesGeoJson, placesTable, readPlaces } from '../../server/services/centres/places'
import { registerFromFile } from '../../server/services/centres/register-file'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

describe('the register of centres', () => {
  it('holds every city with its venues and rooms, and what each examination has booked', async () => {
    const places = await readPlaces(office.as())
    expect(places.map(place => place.code).sort()).toEqual(office.notice.cities.map(city => city.id).sort())
    for (const city of office.notice.cities) {
      const place = places.find(one => one.code === city.id)
      expect(place?.venues.map(venue => venue.rooms.flatMap(room => room.bookings))).toEqual(city.venues.map(venue =>
        venue.rooms.map(({ seats, accessibleSeats }) => ({
          cycle: 'HL27',
          seats,
          stepFree: accessibleSeats,
          unusable: [],
          closedIn: [],
          lost: false,
        }))
      ))
    }
    expect(await problemOf(readPlaces(office.as('scrutineer')))).toMatchObject({ code: 'access.role' })
  })

  it('goes out as a table with a row for each booking, and as points with longitude first (RFC 7946, section 3.1.1)', async () => {
    const { columns, pages } = await placesTable(office.as())
    const rows: string[][] = []
    for await (const page of pages) for (const row of page) rows.push(row as string[])
    expect(rows.every(row => row.length === columns.length)).toBe(true)
    const seats = rows.reduce((sum, row) => sum + Number(row[columns.indexOf('seats')]), 0)
    expect(seats)
      .toBe(office.notice.cities.flatMap(city => city.venues).flatMap(venue => venue.rooms).reduce((sum, room) => sum + room.seats, 0))
    const { type, features } = JSON.parse(await placesGeoJson(office.as())) as {
      type: string,
      features: { type: string, id: string, geometry: { type: string, coordinates: number[] } }[],
    }
    const [city] = office.notice.cities
    expect([type, features.length]).toEqual(['FeatureCollection', office.notice.cities.length])
    expect(features.find(feature => feature.id === city?.id)).toMatchObject({
      type: 'Feature',
      geometry: { type: 'Point', coordinates: [city?.lon, city?.lat] },
    })
  })
})

describe('a file of the register', () => {
  const csv = async () => {
    const { columns, pages } = await placesTable(office.as())
    const rows: string[][] = []
    for await (const page of pages) rows.push(...page as string[][])
    return { columns, rows }
  }
  const file = (columns: readonly string[], rows: readonly string[][]) =>
    Buffer.from([columns, ...rows].map(row => row.map(cell => `"${cell}"`).join(';')).join('\r\n'))
  const send = (bytes: Buffer, mode: 'try' | 'do' = 'try') => registerFromFile(office.as(), office.cycle, bytes, mode)

  it('taken along comes back without a change, as a table and as points', async () => {
    const { columns, rows } = await csv()
    const nothing = { counts: { isNew: 0, isChanged: 0 }, changes: [], faults: [], booked: 0, kept: 0, ofOthers: 0 }
    expect(await send(file(columns, rows))).toMatchObject(nothing)
    expect(await send(Buffer.from(await placesGeoJson(office.as())))).toMatchObject(nothing)
  })

  it('is tried without a trace, then entered whole, and changes nothing the second time', async () => {
    const { columns, rows } = await csv()
    const [first = []] = rows
    const at = (column: string) => columns.indexOf(column)
    const room = first.map((cell, i) =>
      i === at('room_code') ? 'annexe-1' : i === at('room') ? 'Annexe' : i === at('seats') ? '12' : i === at('step_free_seats') ? '1' : cell
    )
    const moved = rows.map(row =>
      row[at('venue_code')] === first[at('venue_code')] ? row.map((cell, i) => i === at('address') ? '9 New Quay' : cell) : row
    )
    const bytes = file(columns, [...moved, room.map((cell, i) => i === at('address') ? '9 New Quay' : cell)])
    const before = await readPlaces(office.as())
    expect(await send(bytes)).toMatchObject({ isEntered: false, counts: { isNew: 1, isChanged: 1 }, booked: 1, seats: 12 })
    expect(await readPlaces(office.as())).toEqual(before)
    expect(await send(bytes, 'do')).toMatchObject({ isEntered: true, counts: { isNew: 1, isChanged: 1 } })
    const place = (await readPlaces(office.as())).find(one => one.code === first[at('city_code')])
    const venue = place?.venues.find(one => one.code === first[at('venue_code')])
    expect(venue).toMatchObject({ address: '9 New Quay' })
    expect(venue?.rooms.at(-1)).toEqual({
      code: 'annexe-1',
      title: 'Annexe',
      bookings: [{ cycle: 'HL27', seats: 12, stepFree: 1, unusable: [], closedIn: [], lost: false }],
    })
    expect(await send(bytes, 'do')).toMatchObject({ counts: { isNew: 0, isChanged: 0 }, booked: 0 })
    // Seats that are booked stay as they are.
    expect(await send(file(columns, [room.map((cell, i) => i === at('seats') ? '50' : i === at('address') ? '9 New Quay' : cell)])))
      .toMatchObject({ booked: 0, kept: 1 })
  })

  it('with a fault is not entered at all, and what is no register is refused in words', async () => {
    const { columns, rows } = await csv()
    const wrong = rows.map((row, i) => i === 0 ? row.map((cell, c) => columns[c] === 'latitude' ? 'north' : cell) : row)
    expect(await send(file(columns, wrong))).toMatchObject({
      faultCount: 1,
      faults: [{ at: 2, code: 'number', column: 'latitude', value: 'north' }],
    })
    expect(await problemOf(send(file(columns, wrong), 'do'))).toMatchObject({ code: 'register.faults' })
    expect(await problemOf(send(Buffer.from('town,seats\r\nPort,3')))).toMatchObject({ code: 'register.columns' })
    expect(await problemOf(send(Buffer.from('{"type":"Feature"}')))).toMatchObject({ code: 'register.geojson' })
    expect(await problemOf(send(Buffer.from('{"type":')))).toMatchObject({ code: 'register.geojson' })
    expect(await problemOf(send(Buffer.from([0xFF, 0xD8, 0xFF, 0xE0, 0, 1])))).toMatchObject({ code: 'table.unknown' })
    expect(await problemOf(registerFromFile(office.as('auditor'), office.cycle, file(columns, rows), 'try'))).toMatchObject({
      code: 'access.role',
    })
  })
})
