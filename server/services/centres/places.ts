import { asc, eq } from 'drizzle-orm'
import { registerColumns } from '../../../core/register/described'
import type { Place, PlaceRoom } from '../../../shared/places'
import type { OutgoingTable } from '../../../tables/stream'
import type { Executor } from '../../database/client'
import { city, room, roomBooking, venue } from '../../database/schema'
import type { Caller } from '../context'

/** The register of centres as it stands, with what every examination has booked of it. */
export async function readPlaces(caller: Caller): Promise<Place[]> {
  const { db } = await caller.authorise('centres.read')
  return placesOf(db)
}

export async function placesOf(db: Executor): Promise<Place[]> {
  const rows = await db.select().from(city).leftJoin(venue, eq(venue.city, city.code)).leftJoin(room, eq(room.venue, venue.code)).leftJoin(
    roomBooking,
    eq(roomBooking.room, room.code),
  ).orderBy(
    asc(city.title),
    asc(city.code),
    asc(venue.position),
    asc(venue.code),
    asc(room.position),
    asc(room.code),
    asc(roomBooking.cycle),
  )
  const places: Place[] = []
  for (const row of rows) {
    if (places.at(-1)?.code !== row.city.code) places.push({ ...row.city, venues: [] })
    const venues = places.at(-1)?.venues
    if (!venues || !row.venue) continue
    if (venues.at(-1)?.code !== row.venue.code) {
      venues.push({ code: row.venue.code, title: row.venue.title, address: row.venue.address, contact: row.venue.contact, rooms: [] })
    }
    const rooms = venues.at(-1)?.rooms
    if (!rooms || !row.room) continue
    if (rooms.at(-1)?.code !== row.room.code) rooms.push({ code: row.room.code, title: row.room.title, bookings: [] })
    const booked = row.room_booking
    if (booked) {
      rooms.at(-1)?.bookings.push({
        cycle: booked.cycle,
        seats: booked.seats,
        stepFree: booked.accessibleSeats,
        unusable: booked.unusable,
        closedIn: booked.closedIn,
        lost: booked.lost,
      })
    }
  }
  return places
}

/** The register as a table: a row for each booking of a room that is not lost; a city, venue or room without any has a row as well. */
export async function placesTable(caller: Caller): Promise<OutgoingTable> {
  const places = await readPlaces(caller)
  const orNone = <T>(list: readonly T[]): (T | null)[] => list.length > 0 ? [...list] : [null]
  const bookings = (one: PlaceRoom | null) =>
    orNone(one?.bookings.filter(booked => !booked.lost) ?? []).map(booked =>
      booked ? [booked.cycle, String(booked.seats), String(booked.stepFree), booked.unusable.join(' ')] : ['', '', '', '']
    )
  const rows = places.flatMap(place =>
    orNone(place.venues).flatMap(at =>
      orNone(at?.rooms ?? []).flatMap(one =>
        bookings(one).map(booked => [
          place.code,
          place.title,
          place.island,
          String(place.lat),
          String(place.lon),
          place.postalPrefix,
          at?.code ?? '',
          at?.title ?? '',
          at?.address ?? '',
          at?.contact ?? '',
          one?.code ?? '',
          one?.title ?? '',
          ...booked,
        ])
      )
    )
  )
  return {
    title: 'register',
    columns: registerColumns,
    pages: (async function*() {
      yield rows
    })(),
  }
}

/** The register's cities as points with their venues (GeoJSON, RFC 7946: longitude before latitude, WGS 84). */
export async function placesGeoJson(caller: Caller): Promise<string> {
  const places = await readPlaces(caller)
  return JSON.stringify({
    type: 'FeatureCollection',
    features: places.map(({ lat, lon, code, ...properties }) => ({
      type: 'Feature',
      id: code,
      geometry: { type: 'Point', coordinates: [lon, lat] },
      properties: { code, ...properties },
    })),
  })
}
