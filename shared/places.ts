import { z } from 'zod'
import type { PlaceChange, RowFault } from '../core/register/described'

/** A room of the register, and the seats that examinations use there for one session. */
export interface PlaceRoom { code: string, title: string, bookings: { cycle: string, seats: number, stepFree: number }[] }
export interface PlaceVenue { code: string, title: string, address: string, rooms: PlaceRoom[] }
/** A city of the register with all its venues and rooms, whoever uses them. */
export interface Place { code: string, title: string, island: string, lat: number, lon: number, postalPrefix: string, venues: PlaceVenue[] }

export const placeTableSchema = z.object({ format: z.enum(['csv', 'xlsx', 'ods', 'jsonl', 'geojson']).default('csv') })

export const registerModeSchema = z.object({ mode: z.enum(['try', 'do']).default('try') })

/** What a file brings to the register, or has brought; of changes and faults the first some hundred. `kept` are rooms whose seats the examination has otherwise already. */
export interface RegisterFileView {
  rows: number, isEntered: boolean, counts: { isNew: number, isChanged: number }, changes: PlaceChange[], faults: RowFault[], faultCount: number
  booked: number, seats: number, kept: number, /** Rows whose seats are of another examination. */ ofOthers: number
}
