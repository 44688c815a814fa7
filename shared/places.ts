import { z } from 'zod'
import type { RoomUse } from '../core/seating/rooms'
import type { PlaceChange, RowFault } from '../core/register/described'

/** A room of the register, and what examinations use of it for one session. */
export interface PlaceRoom {
  code: string
  title: string
  bookings: (RoomUse & { cycle: string })[]
}
export interface PlaceVenue {
  code: string
  title: string
  address: string
  contact: string
  rooms: PlaceRoom[]
}
/** A city of the register with all its venues and rooms, whoever uses them. */
export interface Place {
  code: string
  title: string
  island: string
  lat: number
  lon: number
  postalPrefix: string
  venues: PlaceVenue[]
}

export const placeTableSchema = z.object({ format: z.enum(['csv', 'xlsx', 'ods', 'jsonl', 'geojson']).default('csv') })

export const registerModeSchema = z.object({ mode: z.enum(['try', 'do']).default('try') })

/** A room that was found for a venue: one seat a person in each session. */
export const newRoomSchema = z.object({
  city: z.string().max(60),
  venue: z.string().max(80),
  title: z.string().trim().min(1).max(60),
  seats: z.int().min(1).max(5000),
  accessibleSeats: z.int().min(0).max(5000),
})
export type NewRoom = z.infer<typeof newRoomSchema>

const mostSeats = 100_000
/** What an examination is to have of some rooms from now on, and why. */
export const roomsChangeSchema = z.strictObject({
  rooms: z.array(z.strictObject({
    room: z.string().min(1).max(80),
    seats: z.int().min(1).max(mostSeats),
    stepFree: z.int().min(0).max(mostSeats),
    unusable: z.array(z.int().min(1).max(mostSeats)).max(5000),
    closedIn: z.array(z.string().min(1).max(60)).max(200),
    lost: z.boolean(),
  })).min(1).max(500),
  reason: z.string().trim().max(1000),
})
export type RoomsChange = z.infer<typeof roomsChangeSchema>
/**
 * What that does, in people: with seats there; of them with another chair in the same city and session, and without any. `proposal`: it
 * waits for a second person.
 */
export interface RoomsChanged {
  people: number
  moved: number
  without: number
  anotherHour: number
  proposal: string | null
}

export const venueFactsSchema = z.strictObject({
  title: z.string().trim().min(1).max(140),
  address: z.string().trim().min(1).max(300),
  contact: z.string().trim().max(300),
})
export type VenueFacts = z.infer<typeof venueFactsSchema>

/**
 * What a file brings to the register, or has brought; of changes and faults the first some hundred. `kept` are rooms whose seats the
 * examination has otherwise already.
 */
export interface RegisterFileView {
  rows: number
  isEntered: boolean
  counts: { isNew: number, isChanged: number }
  changes: PlaceChange[]
  faults: RowFault[]
  faultCount: number
  booked: number
  seats: number
  kept: number
  /** Rows whose seats are of another examination. */
  ofOthers: number
}
