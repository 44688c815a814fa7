import { asc, desc, eq, inArray, sql } from 'drizzle-orm'
import type { CentreRegister } from '../../../core/notice/check'
import type { City } from '../../../core/notice/centre-schema'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { city, cycle, room, roomBooking, venue } from '../../database/schema'
import type { Caller, Context } from '../context'

/** The register of centres: cities, venues and rooms with lasting codes, and what of them each cycle uses. */

/** The whole register: every city with its venues and rooms, each room with the seats that the cycle which booked it last uses there. */
export async function readRegister(caller: Caller): Promise<Omit<City, 'number'>[]> {
  const { db } = await caller.authorise('notice.read')
  return [...(await lastUsed(db)).values()]
}

async function lastUsed(db: Executor): Promise<Map<string, Omit<City, 'number'>>> {
  // What is unusable stays so; when a room is free, each examination says anew.
  const latest = db.selectDistinctOn([roomBooking.room], {
    room: roomBooking.room,
    seats: roomBooking.seats,
    accessibleSeats: roomBooking.accessibleSeats,
    unusable: roomBooking.unusable,
    lost: roomBooking.lost,
  }).from(roomBooking).orderBy(roomBooking.room, desc(roomBooking.at)).as('latest')
  const rows = await db.select().from(city).leftJoin(venue, eq(venue.city, city.code)).leftJoin(room, eq(room.venue, venue.code)).leftJoin(
    latest,
    eq(latest.room, room.code),
  ).orderBy(asc(city.title), asc(venue.position), asc(venue.code), asc(room.position), asc(room.code))
  const found = new Map<string, Omit<City, 'number'>>()
  for (const row of rows) {
    const { code, ...facts } = row.city
    const known = found.get(code) ?? { id: code, ...facts, venues: [] }
    found.set(code, known)
    if (!row.venue || !row.room || !row.latest || row.latest.lost) continue
    addTo(known.venues, row.venue, row.room, { ...row.latest, closedIn: [], lost: false })
  }
  return found
}

/** Adds a room to the venues of a city, which come in their order. */
function addTo(
  venues: City['venues'],
  at: typeof venue.$inferSelect,
  { code, title }: typeof room.$inferSelect,
  use: Pick<typeof roomBooking.$inferSelect, 'seats' | 'accessibleSeats' | 'unusable' | 'closedIn' | 'lost'>,
): void {
  if (venues.at(-1)?.id !== at.code) {
    venues.push({ id: at.code, title: at.title, address: at.address, ...at.contact === '' ? {} : { contact: at.contact }, rooms: [] })
  }
  const { seats, accessibleSeats, unusable, closedIn, lost } = use
  venues.at(-1)?.rooms.push({
    id: code,
    title,
    seats,
    accessibleSeats,
    ...unusable.length > 0 ? { unusable } : {},
    ...closedIn.length > 0 ? { closedIn } : {},
    ...lost ? { lost } : {},
  })
}

/**
 * The cities of the register as a notice of the cycle may name them: with the rooms that the cycle uses, or, where it uses none yet, with
 * those that were used last.
 */
export async function centresFor(db: Executor, cycleCode: string): Promise<Map<string, Omit<City, 'number'>>> {
  const [used, last] = [await centresOf(db, cycleCode), await lastUsed(db)]
  return new Map([...used].map(([code, own]) => [code, own.venues.length > 0 ? own : last.get(code) ?? own]))
}

/** The cities of the register, each with the venues and rooms that the cycle uses, in the order of filling. */
export async function centresOf(db: Executor, cycleCode: string): Promise<CentreRegister> {
  const rooms = await db.select().from(roomBooking).innerJoin(room, eq(room.code, roomBooking.room)).innerJoin(
    venue,
    eq(venue.code, room.venue),
  ).where(eq(roomBooking.cycle, cycleCode)).orderBy(
    asc(venue.city),
    asc(venue.position),
    asc(venue.code),
    asc(room.position),
    asc(room.code),
  )
  const found =
    new Map((await db.select().from(city)).map(({ code, ...facts }) => [code, { id: code, ...facts, venues: [] as City['venues'] }]))
  for (const row of rooms) {
    addTo(found.get(row.venue.city)?.venues ?? [], row.venue, row.room, row.room_booking)
  }
  return found
}

/**
 * Enters the cities of a notice where the register does not know them, and books their rooms for the cycle where it uses
 * none there yet. What is in the register stays as it is.
 *
 * @throws ProblemError when the rooms described are not those that the cycle uses: rooms are changed in the register, not by a notice.
 */
export async function enterCentres(tx: Executor, context: Context, cycleCode: string, described: readonly City[]): Promise<void> {
  if (described.length === 0) return
  await holdRegister(tx)
  const known = await centresOf(tx, cycleCode)
  const inUse = (code: string) => known.get(code)?.venues ?? []
  for (const one of described) {
    const used = inUse(one.id)
    if (used.length > 0 && seatingOf(used) !== seatingOf(one.venues)) throw refusal('notice.centres-differ', { city: one.title })
  }
  const fresh = described.filter(one => inUse(one.id).length === 0)
  if (fresh.length === 0) return
  const venues = fresh.flatMap(one =>
    one.venues.map((given, position) => ({
      code: given.id,
      city: one.id,
      title: given.title,
      address: given.address,
      contact: given.contact ?? '',
      position,
      rooms: given.rooms,
    }))
  )
  const rooms = venues.flatMap(given => given.rooms.map((one, position) => ({ ...one, code: one.id, venue: given.code, position })))
  await tx.insert(city)
    .values(fresh.map(({ id, title, island, lat, lon, postalPrefix }) => ({ code: id, title, island, lat, lon, postalPrefix })))
    .onConflictDoNothing()
  await tx.insert(venue).values(venues.map(({ rooms: _rooms, ...facts }) => facts)).onConflictDoNothing()
  await tx.insert(room).values(rooms.map(({ code, venue: at, title, position }) => ({ code, venue: at, title, position })))
    .onConflictDoNothing()
  await refuseMoved(tx, venues, rooms)
  await tx.insert(roomBooking).values(rooms.map(one => ({
    cycle: cycleCode,
    room: one.code,
    seats: one.seats,
    accessibleSeats: one.accessibleSeats,
    unusable: one.unusable ?? [],
    closedIn: one.closedIn ?? [],
    by: context.principal.id,
    at: context.now(),
  }))).onConflictDoNothing()
  await touch(tx, cycleCode)
}

/** One at a time: of two who bring the same city the second finds it. Held until the transaction ends. */
export async function holdRegister(tx: Executor): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(7004, hashtext('centres'))`)
}

const seatingOf = (venues: City['venues']) =>
  JSON.stringify(venues.flatMap(one => one.rooms.map(r => [one.id, r.id, r.seats, r.accessibleSeats])).sort())

// A code that the register holds elsewhere names another place: its rooms would be booked for the wrong city.
async function refuseMoved(
  tx: Executor,
  venues: readonly { code: string, city: string }[],
  rooms: readonly { code: string, venue: string }[],
): Promise<void> {
  const heldVenues = await tx.select().from(venue).where(inArray(venue.code, venues.map(v => v.code)))
  const heldRooms = await tx.select().from(room).where(inArray(room.code, rooms.map(r => r.code)))
  const moved = heldVenues.find(held => venues.find(v => v.code === held.code)?.city !== held.city)?.code
    ?? heldRooms.find(held => rooms.find(r => r.code === held.code)?.venue !== held.venue)?.code
  if (moved !== undefined) throw refusal('notice.centre-elsewhere', { code: moved })
}

async function touch(tx: Executor, cycleCode: string): Promise<void> {
  await tx.update(cycle).set({ centresRevision: sql`${cycle.centresRevision} + 1` }).where(eq(cycle.code, cycleCode))
}
