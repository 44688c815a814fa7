import { z } from 'zod'

/** A room of the register, and the seats that examinations use there for one session. */
export interface PlaceRoom { code: string, title: string, bookings: { cycle: string, seats: number, stepFree: number }[] }
export interface PlaceVenue { code: string, title: string, address: string, rooms: PlaceRoom[] }
/** A city of the register with all its venues and rooms, whoever uses them. */
export interface Place { code: string, title: string, island: string, lat: number, lon: number, postalPrefix: string, venues: PlaceVenue[] }

export const placeTableSchema = z.object({ format: z.enum(['csv', 'xlsx', 'ods', 'jsonl', 'geojson']).default('csv') })
