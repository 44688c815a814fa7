import { z } from 'zod'
import { calendarDate, clockTime, id } from './questions'

export const roomSchema = z.strictObject({
  id,
  title: z.string(),
  seats: z.int().min(1),
  accessibleSeats: z.int().min(0),
  /** Numbers of seats that nobody can sit on, from 1; they count among `seats`. */
  unusable: z.array(z.int().min(1).max(100_000)).max(5000).optional(),
  /** Sessions in which the room is not free, by their ids. */
  closedIn: z.array(z.string().min(1).max(60)).max(200).optional(),
  /** The examination has lost it: it has no seats any more, and is named for the sake of what was told before. */
  lost: z.literal(true).optional(),
})

export type Room = z.infer<typeof roomSchema>

export const venueSchema = z.strictObject({
  id,
  title: z.string(),
  address: z.string(),
  /** Whom to ask there, and how. */ contact: z.string().max(300).optional(),
  rooms: z.array(roomSchema).min(1),
})

export type Venue = z.infer<typeof venueSchema>

export const citySchema = z.strictObject({
  id,
  title: z.string(),
  island: z.string(),
  /** The first two digits of roll numbers given in this city; it never passes to another city of the cycle. */
  number: z.int().min(1).max(99),
  lat: z.number().min(-90).max(90),
  lon: z.number().min(-180).max(180),
  postalPrefix: z.string().regex(/^\d+$/, 'shape.digits'),
  venues: z.array(venueSchema).min(1),
})

export type City = z.infer<typeof citySchema>

/** A city of the register by its code, and the number that it has in this notice. */
export const cityNamedSchema = citySchema.pick({ id: true, number: true })

export const sessionSchema = z.strictObject({
  id,
  title: z.string(),
  date: calendarDate,
  reporting: clockTime,
  gateCloses: clockTime,
  starts: clockTime,
  ends: clockTime,
})

export type Session = z.infer<typeof sessionSchema>
