import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { placesGeoJson, placesTable, readPlaces } from '../../server/services/centres/places'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'

let office: Office
beforeAll(async () => { office = await openOffice() })
afterAll(() => office.close())

describe('the register of centres', () => {
  it('holds every city with its venues and rooms, and what each examination has booked', async () => {
    const places = await readPlaces(office.as())
    expect(places.map(place => place.code).sort()).toEqual(office.notice.cities.map(city => city.id).sort())
    for (const city of office.notice.cities) {
      const place = places.find(one => one.code === city.id)
      expect(place?.venues.map(venue => venue.rooms.flatMap(room => room.bookings))).toEqual(city.venues.map(venue => venue.rooms.map(({ seats, accessibleSeats }) => ({ cycle: 'HL27', seats, stepFree: accessibleSeats }))))
    }
    expect(await problemOf(readPlaces(office.as('scrutineer')))).toMatchObject({ code: 'access.role' })
  })

  it('goes out as a table with a row for each booking, and as points with longitude first (RFC 7946, section 3.1.1)', async () => {
    const { columns, pages } = await placesTable(office.as())
    const rows: string[][] = []
    for await (const page of pages) for (const row of page) rows.push(row as string[])
    expect(rows.every(row => row.length === columns.length)).toBe(true)
    const seats = rows.reduce((sum, row) => sum + Number(row[columns.indexOf('seats')]), 0)
    expect(seats).toBe(office.notice.cities.flatMap(city => city.venues).flatMap(venue => venue.rooms).reduce((sum, room) => sum + room.seats, 0))
    const { type, features } = JSON.parse(await placesGeoJson(office.as())) as { type: string, features: { type: string, id: string, geometry: { type: string, coordinates: number[] } }[] }
    const [city] = office.notice.cities
    expect([type, features.length]).toEqual(['FeatureCollection', office.notice.cities.length])
    expect(features.find(feature => feature.id === city?.id)).toMatchObject({ type: 'Feature', geometry: { type: 'Point', coordinates: [city?.lon, city?.lat] } })
  })
})
