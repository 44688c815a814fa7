import { mod11_10CheckDigit } from '../identity/check-digit'
import type { City, Room, Session } from '../notice/centre-schema'

/** One seat of one session. `seat` counts from 1 in its room; accessible seats come first. */
export interface Seat {
  city: string
  venue: string
  room: string
  session: string
  seat: number
  accessible: boolean
}

/** The numbers of the seats of a room that people can be given in a session. */
export function seatsOfRoom(room: Room, session: string): number[] {
  if (room.lost || room.closedIn?.includes(session)) return []
  const unusable = new Set(room.unusable)
  return Array.from({ length: room.seats }, (_, i) => i + 1).filter(seat => !unusable.has(seat))
}

/** Every seat of a city in the order of filling: session, venue, room, seat number. */
export function seatsOfCity(city: City, sessions: readonly Session[]): Seat[] {
  return sessions.flatMap(session =>
    city.venues.flatMap(venue =>
      venue.rooms.flatMap(room =>
        seatsOfRoom(room, session.id).map(seat => ({
          city: city.id,
          venue: venue.id,
          room: room.id,
          session: session.id,
          seat,
          accessible: seat <= room.accessibleSeats,
        }))
      )
    )
  )
}

/** Seats of a city over all sessions: what the allocation may fill. */
export function capacityOfCity(city: City, sessions: readonly Session[]): { capacity: number, accessibleCapacity: number } {
  const seats = seatsOfCity(city, sessions)
  return { capacity: seats.length, accessibleCapacity: seats.filter(s => s.accessible).length }
}

/** Seats of every city by session, as the venues have them. */
export function venueSeats({ cities, sessions }: { cities: City[], sessions: Session[] }): (SeatLimit & { city: string })[] {
  return cities.flatMap(city =>
    sessions.map((session) => {
      const seats = seatsOfCity(city, [session])
      return { city: city.id, session: session.id, seats: seats.length, accessibleSeats: seats.filter(s => s.accessible).length }
    })
  )
}

export const seatKey = (s: Pick<Seat, 'venue' | 'room' | 'session' | 'seat'>) => `${s.venue}/${s.room}/${s.session}/${s.seat}`

/** How many seats of a session may be filled, and how many of them are accessible. */
export interface SeatLimit {
  session: string
  seats: number
  accessibleSeats: number
}

/**
 * The seats of a city that may still be given out: of each session as many as its limit, those first in the order of filling,
 * without those taken.
 */
export function openSeats(city: City, sessions: Session[], limits: readonly SeatLimit[], taken: ReadonlySet<string>): Seat[] {
  return sessions.flatMap((session) => {
    const limit = limits.find(l => l.session === session.id)
    const all = seatsOfCity(city, [session])
    const free = (accessible: boolean, most: number) => {
      const kind = all.filter(s => s.accessible === accessible)
      const open = kind.filter(s => !taken.has(seatKey(s)))
      return open.slice(0, Math.max(0, Math.min(most, kind.length) - (kind.length - open.length)))
    }
    return limit
      ? [...free(true, limit.accessibleSeats), ...free(false, limit.seats - limit.accessibleSeats)]
      : all.filter(s => !taken.has(seatKey(s)))
  })
}

/**
 * Seats for the people of one city out of those that are free, in the order of their ids. People in need take accessible seats
 * first; everybody else fills ordinary seats first and accessible ones only when no ordinary seat is left.
 *
 * @throws RangeError when the people do not fit, which an allocation within its limits cannot bring about.
 */
export function assignSeats(city: string, free: readonly Seat[], people: { id: string, needsAccessible: boolean }[]): Map<string, Seat> {
  const accessible = free.filter(s => s.accessible)
  const ordinary = free.filter(s => !s.accessible)
  const ordered = [...people].sort((a, b) => a.id < b.id ? -1 : a.id > b.id ? 1 : 0)
  const result = new Map<string, Seat>()
  let [first, last, next] = [0, accessible.length - 1, 0]
  const give = (id: string, seat: Seat | undefined, kind: string) => {
    if (!seat) throw new RangeError(`no ${kind} seat left in ${city} for ${id}: ${people.length} people, ${free.length} free seats`)
    result.set(id, seat)
  }
  for (const person of ordered) if (person.needsAccessible) give(person.id, accessible[first++], 'accessible')
  for (const person of ordered) {
    if (!person.needsAccessible) {
      give(person.id, next < ordinary.length ? ordinary[next++] : last >= first ? accessible[last--] : undefined, 'ordinary')
    }
  }
  return result
}

/** Somebody who has a seat already. */
export interface Seated {
  id: string
  needsAccessible: boolean
  seat: Seat
}

/**
 * Who keeps the seat they have when a city is filled anew with `coming` people more, and which seats are then free. A seat that is no
 * longer open is lost; of people without need on accessible seats as many give theirs up, the last by id first, as people in need want.
 */
export function keepSeats(
  open: readonly Seat[],
  seated: readonly Seated[],
  coming: readonly { needsAccessible: boolean }[],
): { kept: Seated[], leaving: Seated[], free: Seat[] } {
  const places = new Set(open.map(seatKey))
  const inOrder = [...seated].sort((a, b) => a.id < b.id ? -1 : 1)
  const kept = inOrder.filter(s => places.has(seatKey(s.seat)) && (s.seat.accessible || !s.needsAccessible))
  const keeping = new Set(kept)
  const leaving = inOrder.filter(s => !keeping.has(s))
  const taken = (list: Seated[]) => new Set(list.map(s => seatKey(s.seat)))
  const held = taken(kept)
  let short = [...coming, ...leaving].filter(p => p.needsAccessible).length - open.filter(s => s.accessible && !held.has(seatKey(s))).length
  for (let i = kept.length - 1; i >= 0 && short > 0; i -= 1) {
    const one = kept[i]
    if (!one || one.needsAccessible || !one.seat.accessible) continue
    leaving.push(...kept.splice(i, 1))
    short -= 1
  }
  const now = taken(kept)
  return { kept, leaving, free: open.filter(s => !now.has(seatKey(s))) }
}

/**
 * Roll number: the city's own number in two digits, five digits that count the people of the city, a check digit
 * (ISO/IEC 7064 MOD 11,10): eight digits in all, e.g. `07000136`. Serial counts from 1 without gaps.
 */
export function rollNumber(cityNumber: number, serial: number): string {
  const digits = `${String(cityNumber).padStart(2, '0')}${String(serial).padStart(5, '0')}`
  return digits + mod11_10CheckDigit(digits)
}
