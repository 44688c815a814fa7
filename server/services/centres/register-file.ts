import { and, eq, inArray, sql } from 'drizzle-orm'
import { z } from 'zod'
import {
  describeRegister,
  registerColumns,
  type Described,
  type PlaceChange,
  type RegisterColumn,
  type RegisterRow,
  type SeatsGiven,
} from '../../../core/register/described'
import type { Place, RegisterFileView } from '../../../shared/places'
import { refusal } from '../../../shared/refusal'
import { recogniseTable, tableRows, textOf } from '../../../tables/read'
import type { Executor } from '../../database/client'
import { city, cycle, room, roomBooking, venue } from '../../database/schema'
import { log, type Caller, type Context } from '../context'
import { holdRegister } from './register'
import { placesOf } from './places'

const rowsAtMost = 50_000
const shown = 300
/** What a file may leave out. */
const optional: readonly RegisterColumn[] = ['venue_code', 'venue', 'address', 'contact', 'room_code', 'room', 'examination', 'seats',
  'step_free_seats', 'unusable_seats']

/**
 * Tries a file of the register, or enters it for an examination: new places, changed facts, and seats of rooms that the examination does
 * not use yet. Tried, nothing is written. A file with a fault is not entered at all; what it does not name stays as it is, and so do seats
 * that are booked already.
 *
 * @throws ProblemError `register.columns`, `register.geojson`, `register.rows`, `register.faults`, or what is wrong with the table.
 */
export async function registerFromFile(caller: Caller, cycleCode: string, bytes: Buffer, mode: 'try' | 'do'): Promise<RegisterFileView> {
  const context = await caller.authorise('notice.amend', { cycle: cycleCode })
  const rows = await rowsOf(bytes)
  if (rows.length > rowsAtMost) throw refusal('register.rows', { most: rowsAtMost })
  return context.db.transaction(async (tx) => {
    if (mode === 'do') await holdRegister(tx)
    const [known] = await tx.select({ code: cycle.code }).from(cycle).where(eq(cycle.code, cycleCode))
    if (!known) throw refusal('cycle.unknown', { cycle: cycleCode })
    const places = await placesOf(tx)
    const described = describeRegister(rows, places, cycleCode)
    const seats = seatsToBook(described, places, cycleCode)
    if (mode === 'do' && described.faults.length > 0) throw refusal('register.faults', { count: described.faults.length })
    if (mode === 'do') await enter(tx, context, cycleCode, described, seats.fresh, rows)
    return {
      rows: rows.length,
      isEntered: mode === 'do',
      counts: countsOf(described.changes),
      changes: described.changes.slice(0, shown),
      faults: described.faults.slice(0, shown),
      faultCount: described.faults.length,
      booked: seats.fresh.length,
      seats: seats.fresh.reduce((sum, one) => sum + one.seats, 0),
      kept: seats.kept,
      ofOthers: described.ofOthers,
    }
  })
}

const countsOf = (changes: readonly PlaceChange[]): RegisterFileView['counts'] => ({
  isNew: changes.filter(change => change.isNew).length,
  isChanged: changes.filter(change => !change.isNew).length,
})

/** Rooms that the examination does not use yet, with their seats; how many it uses with others than the file says. */
function seatsToBook({ seats }: Described, places: readonly Place[], cycleCode: string): { fresh: SeatsGiven[], kept: number } {
  const booked =
    new Map(places.flatMap(place => place.venues).flatMap(at => at.rooms).flatMap(one =>
      one.bookings.filter(booking => booking.cycle === cycleCode).map(booking => [one.code, booking] as const)
    ))
  const fresh = [...new Map(seats.filter(one => !booked.has(one.room)).map(one => [one.room, one])).values()]
  const kept = seats.filter((one) => {
    const booking = booked.get(one.room)
    return booking && (booking.seats !== one.seats || booking.stepFree !== one.stepFree)
  }).length
  return { fresh, kept }
}

async function enter(
  tx: Executor,
  context: Context,
  cycleCode: string,
  { changes }: Described,
  seats: readonly SeatsGiven[],
  rows: readonly RegisterRow[],
): Promise<void> {
  const cells =
    new Map(rows.flatMap(({ cells: one }) =>
      [[`city ${one.city_code}`, one], [`venue ${one.venue_code}`, one], [`room ${one.room_code}`, one]] as const
    ))
  for (const { kind, code, isNew } of changes) {
    const one = cells.get(`${kind} ${code}`)
    if (!one) continue
    await enterPlace(tx, kind, code, isNew, one)
  }
  if (seats.length > 0) await enterSeats(tx, context, cycleCode, seats)
  // Facts of places stand in the notices of all examinations.
  await tx.update(cycle).set({ centresRevision: sql`${cycle.centresRevision} + 1` })
  await log(tx, context, 'change-register', {
    subject: { kind: 'cycle', id: cycleCode },
    cycle: cycleCode,
    after: {
      ...countsOf(changes),
      rooms: seats.length,
      places: changes.slice(0, shown).map(({ kind, code, facts }) => ({ kind, code, facts })),
    },
  })
}

async function enterPlace(
  tx: Executor,
  kind: 'city' | 'venue' | 'room',
  code: string,
  isNew: boolean,
  one: RegisterRow['cells'],
): Promise<void> {
  if (kind === 'city') {
    const { city: title, island, postal_prefix: postalPrefix } = one
    const facts = { title, island, lat: Number(one.latitude), lon: Number(one.longitude), postalPrefix }
    await (isNew ? tx.insert(city).values({ code, ...facts }) : tx.update(city).set(facts).where(eq(city.code, code)))
  } else if (kind === 'venue') {
    const facts = { title: one.venue, address: one.address, ...one.contact === '' ? {} : { contact: one.contact } }
    await (isNew
      ? tx.insert(venue).values({ code, city: one.city_code, position: await nextPlace(tx, 'venue', one.city_code), ...facts })
      : tx.update(venue).set(facts).where(eq(venue.code, code)))
  } else {
    await (isNew
      ? tx.insert(room).values({ code, venue: one.venue_code, title: one.room, position: await nextPlace(tx, 'room', one.venue_code) })
      : tx.update(room).set({ title: one.room }).where(eq(room.code, code)))
  }
}

async function enterSeats(tx: Executor, context: Context, cycleCode: string, seats: readonly SeatsGiven[]): Promise<void> {
  const there = await tx.select({ room: roomBooking.room }).from(roomBooking)
    .where(and(eq(roomBooking.cycle, cycleCode), inArray(roomBooking.room, seats.map(one => one.room))))
  const free = seats.filter(one => !there.some(held => held.room === one.room))
  if (free.length === 0) return
  const [by, at] = [context.principal.id, context.now()]
  await tx.insert(roomBooking).values(free.map(({ room: code, seats: all, stepFree, unusable }) => ({
    cycle: cycleCode,
    room: code,
    seats: all,
    accessibleSeats: stepFree,
    unusable,
    by,
    at,
  })))
}

async function nextPlace(tx: Executor, kind: 'venue' | 'room', of: string): Promise<number> {
  const { rows: [last] } = await tx.execute<
    { place: number | null }
  >(kind === 'venue'
    ? sql`select max(position) as place from venue where city = ${of}`
    : sql`select max(position) as place from room where venue = ${of}`)
  return (last?.place ?? -1) + 1
}

async function rowsOf(bytes: Buffer): Promise<RegisterRow[]> {
  const kind = await recogniseTable(bytes)
  if (kind.format === 'csv' && textOf(bytes.subarray(0, 1024), kind.charset).trimStart().startsWith('{')) {
    return geoRows(textOf(bytes, kind.charset))
  }
  const rows: RegisterRow[] = []
  let places: Map<RegisterColumn, number> | null = null
  let at = 0
  for await (const cells of tableRows(bytes, kind)) {
    at += 1
    if (!places) places = headerOf(cells)
    else if (cells.some(cell => cell.trim() !== '')) {
      rows.push({
        at,
        cells: Object
          .fromEntries(registerColumns.map(column => [column, (cells[places?.get(column) ?? -1] ?? '').trim()])) as RegisterRow['cells'],
      })
    }
    if (rows.length > rowsAtMost) break
  }
  if (!places) throw refusal('table.empty')
  return rows
}

function headerOf(cells: readonly string[]): Map<RegisterColumn, number> {
  const names = cells.map(cell => cell.trim().toLowerCase().replaceAll(/[\s-]+/g, '_'))
  const missing = registerColumns.filter(column => !optional.includes(column) && !names.includes(column))
  if (missing.length > 0) throw refusal('register.columns', { missing: missing.join(', '), columns: registerColumns.join(', ') })
  return new Map(registerColumns.flatMap(column => names.includes(column) ? [[column, names.indexOf(column)] as const] : []))
}

const text = z.string().max(500)
const geoSchema = z.object({
  type: z.literal('FeatureCollection'),
  features: z.array(z.object({
    type: z.literal('Feature'),
    geometry: z.object({ type: z.literal('Point'), coordinates: z.array(z.number()).min(2).max(3) }),
    properties: z.object({
      code: text,
      title: text,
      island: text.default(''),
      postalPrefix: text.default(''),
      venues: z.array(z.object({
        code: text,
        title: text,
        address: text.default(''),
        contact: text.default(''),
        rooms: z.array(z.object({
          code: text,
          title: text,
          bookings: z.array(z.object({
            cycle: text,
            seats: z.number(),
            stepFree: z.number().default(0),
            unusable: z.array(z.number()).max(5000).default([]),
          })).default([]),
        })).default([]),
      })).default([]),
    }),
  })),
})

function geoRows(source: string): RegisterRow[] {
  const parsed = geoSchema.safeParse(jsonOf(source))
  if (!parsed.success) throw refusal('register.geojson', { where: `: ${parsed.error.issues[0]?.path.join('/') ?? ''}` })
  const none = [null]
  return parsed.data.features.flatMap(({ geometry: { coordinates: [lon = NaN, lat = NaN] }, properties: place }, feature) =>
    (place.venues.length > 0 ? place.venues : none).flatMap(at =>
      (at && at.rooms.length > 0 ? at.rooms : none).flatMap(one =>
        (one && one.bookings.length > 0 ? one.bookings : none).map(booked => ({
          at: feature + 1,
          cells: {
            city_code: place.code,
            city: place.title,
            island: place.island,
            latitude: String(lat),
            longitude: String(lon),
            postal_prefix: place.postalPrefix,
            venue_code: at?.code ?? '',
            venue: at?.title ?? '',
            address: at?.address ?? '',
            contact: at?.contact ?? '',
            room_code: one?.code ?? '',
            room: one?.title ?? '',
            examination: booked?.cycle ?? '',
            seats: booked ? String(booked.seats) : '',
            step_free_seats: booked ? String(booked.stepFree) : '',
            unusable_seats: booked?.unusable.join(' ') ?? '',
          },
        }))
      )
    )
  )
}

function jsonOf(source: string): unknown {
  try {
    return JSON.parse(source) as unknown
  } catch {
    throw refusal('register.geojson', { where: '' })
  }
}
