import { and, eq, inArray, sql } from 'drizzle-orm'
import { isRoomAsBefore, roomFaults } from '../../../core/seating/rooms'
import type { NewRoom, RoomsChange, RoomsChanged, VenueFacts } from '../../../shared/places'
import { reasonLeast } from '../../../core/application/acts/judge'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { cycle, room, roomBooking, seat, venue } from '../../database/schema'
import type { Given } from '../acts/given'
import { propose, secondPersonWanted, settleProposal } from '../acts/proposals'
import { log, type Caller, type Context } from '../context'
import { currentNotice } from '../notice/notices'
import { holdRegister } from './register'
import { resettle, seatIn, type Resettled, type RoomsAt } from './unsettled'

/** What a cycle has of the rooms of the register: found, changed, and lost, with what that does to seats that people were told. */

/** Adds a room to a venue for a cycle. The notice stays as it is. */
export async function addRoom(caller: Caller, cycleCode: string, given: NewRoom): Promise<{ room: string }> {
  const context = await caller.authorise('notice.amend')
  return context.db.transaction(async (tx) => {
    // The cycle's row is held, so that of two rooms added at once none is lost.
    await holdCycle(tx, cycleCode)
    const [at] = await tx.select().from(venue).where(eq(venue.code, given.venue)).for('update')
    if (!at || at.city !== given.city) throw refusal('notice.venue-unknown', { venue: given.venue, city: given.city })
    const there = await tx.select().from(room).where(eq(room.venue, at.code))
    if (there.some(r => r.title === given.title)) throw refusal('notice.room-exists', { venue: at.title, room: given.title })
    const position = Math.max(-1, ...there.map(r => r.position)) + 1
    const code = freshCode(`${at.code}-${position + 1}`, there.map(r => r.code))
    await tx.insert(room).values({ code, venue: at.code, title: given.title, position })
    await tx.insert(roomBooking).values({
      cycle: cycleCode,
      room: code,
      seats: given.seats,
      accessibleSeats: given.accessibleSeats,
      by: context.principal.id,
      at: context.now(),
    })
    await touch(tx, cycleCode)
    await log(tx, context, 'add-room', {
      subject: { kind: 'cycle', id: cycleCode },
      cycle: cycleCode,
      after: { ...given, room: given.title },
    })
    return { room: code }
  })
}

function freshCode(wanted: string, taken: readonly string[]): string {
  let code = wanted
  for (let n = 2; taken.includes(code); n += 1) code = `${wanted}-${n}`
  return code
}

async function holdCycle(tx: Executor, cycleCode: string): Promise<void> {
  const [held] = await tx.select().from(cycle).where(eq(cycle.code, cycleCode)).for('update')
  if (!held) throw refusal('cycle.unknown', { cycle: cycleCode })
}

async function touch(tx: Executor, cycleCode: string): Promise<void> {
  await tx.update(cycle).set({ centresRevision: sql`${cycle.centresRevision} + 1` }).where(eq(cycle.code, cycleCode))
}

/** Ends what was tried without leaving a trace. */
class Tried extends Error {
  constructor(readonly done: RoomsChanged) {
    super('tried')
  }
}

/**
 * Changes what a cycle has of some rooms: their seats, those that nobody can sit on, sessions in which they are not free, or that they are
 * lost. People whose seat is gone by it get another chair in the same city and session where one is free; the others wait for a run. Tried,
 * all of it is done and taken back, so that what is told is what would be done. Where the notice has rooms confirmed by a second person,
 * and people have seats there, it waits for one.
 *
 * @throws ProblemError `register.room-unknown` for a room that the cycle does not use, `register.room-seats` for numbers that do not go
 * together, `register.session-unknown`, `register.rooms-as-before`.
 */
export async function changeRooms(
  caller: Caller,
  cycleCode: string,
  asked: RoomsChange,
  mode: 'try' | 'do',
  given: Given = {},
): Promise<RoomsChanged> {
  const context = await caller.authorise('centres.publish', { cycle: cycleCode })
  const change = async (tx: Executor): Promise<RoomsChanged> => {
    const done = await changeNow(tx, context, cycleCode, asked, mode === 'do' ? given : null)
    if (mode === 'try') throw new Tried(done)
    return done
  }
  return context.db.transaction(change).catch((error: unknown) => {
    if (error instanceof Tried) return error.done
    throw error
  })
}

async function changeNow(
  tx: Executor,
  context: Context,
  cycleCode: string,
  { rooms, reason }: RoomsChange,
  given: Given | null,
): Promise<RoomsChanged> {
  await holdCycle(tx, cycleCode)
  await holdRegister(tx)
  const { notice: before } = await currentNotice(tx, cycleCode)
  const codes = rooms.map(one => one.room)
  const booked = await tx.select({ booking: roomBooking, title: room.title, venue: room.venue }).from(roomBooking).innerJoin(
    room,
    eq(room.code, roomBooking.room),
  ).where(and(eq(roomBooking.cycle, cycleCode), inArray(roomBooking.room, codes)))
  const held = new Map(booked.map(one => [one.booking.room, one]))
  for (const one of rooms) {
    const known = held.get(one.room)
    if (!known) throw refusal('register.room-unknown', { room: one.room, cycle: cycleCode })
    const [fault] = roomFaults(one)
    if (fault) throw refusal('register.room-seats', { room: known.title, ...fault })
    const session = one.closedIn.find(id => before.sessions.every(s => s.id !== id))
    if (session !== undefined) throw refusal('register.session-unknown', { session })
  }
  const changed = rooms.filter((one) => {
    const known = held.get(one.room)
    return known && !isRoomAsBefore(known.booking, one)
  })
  if (changed.length === 0) throw refusal('register.rooms-as-before')
  const at: RoomsAt = { rooms: changed.map(one => one.room), venues: [...new Set(changed.flatMap(one => held.get(one.room)?.venue ?? []))] }
  const people = await peopleIn(tx, cycleCode, at)
  if (given) {
    if (reason.trim().length < reasonLeast) throw refusal('act.reason', { least: reasonLeast })
    const isSeenTwice = people > 0 && before.secondPerson.includes('change-rooms')
    // Several may wait at once, each for rooms of its own: what is proposed has an id for itself.
    const id = context.newId()
    if (isSeenTwice && await secondPersonWanted(tx, context, 'change-rooms', id, given)) {
      const proposal = await propose(tx, context, 'change-rooms', { id, cycle: cycleCode }, { reason, input: { rooms } })
      return { people, proposal, ...nobody }
    }
    if (given.confirmed) await settleProposal(tx, context, given.confirmed.proposal, 'confirmed')
  }
  for (const { room: code, seats, stepFree, unusable, closedIn, lost } of changed) {
    await tx.update(roomBooking).set({ seats, accessibleSeats: stepFree, unusable, closedIn, lost })
      .where(and(eq(roomBooking.cycle, cycleCode), eq(roomBooking.room, code)))
    // Of seats that stay it is known anew which are step-free.
    await tx.update(seat).set({ accessible: sql`${seat.seat} <= ${stepFree}::int` }).where(and(seatIn(cycleCode, at), eq(seat.room, code)))
  }
  await touch(tx, cycleCode)
  const current = await currentNotice(tx, cycleCode)
  const done = await resettle(tx, context, current, before, reason, at)
  await log(tx, context, 'change-rooms', {
    subject: { kind: 'cycle', id: cycleCode },
    cycle: cycleCode,
    reason,
    noticeVersion: current.version,
    before: { rooms: changed.flatMap(one => lineOf(held.get(one.room))) },
    after: { rooms: changed.map(one => ({ ...one, title: held.get(one.room)?.title })), ...done },
  })
  return { people, proposal: null, ...done }
}

const nobody: Resettled = { moved: 0, without: 0, anotherHour: 0 }
const lineOf = (one: { booking: typeof roomBooking.$inferSelect, title: string } | undefined) =>
  one
    ? [{
      room: one.booking.room,
      title: one.title,
      seats: one.booking.seats,
      stepFree: one.booking.accessibleSeats,
      unusable: one.booking.unusable,
      closedIn: one.booking.closedIn,
      lost: one.booking.lost,
    }]
    : []

async function peopleIn(tx: Executor, cycleCode: string, at: RoomsAt): Promise<number> {
  const [count] = await tx.select({ n: sql<string>`count(distinct ${seat.applicationId})` }).from(seat).where(seatIn(cycleCode, at))
  return Number(count?.n ?? 0)
}

/** Changes how a venue is called, where it lies, and whom to ask there: facts of the register, for all examinations. */
export async function changeVenue(caller: Caller, code: string, facts: VenueFacts): Promise<void> {
  const context = await caller.authorise('notice.amend')
  await context.db.transaction(async (tx) => {
    await holdRegister(tx)
    const [before] = await tx.select({ title: venue.title, address: venue.address, contact: venue.contact }).from(venue)
      .where(eq(venue.code, code)).for('update')
    if (!before) throw refusal('register.venue-unknown', { venue: code })
    await tx.update(venue).set(facts).where(eq(venue.code, code))
    // Facts of places stand in the notices of all examinations.
    await tx.update(cycle).set({ centresRevision: sql`${cycle.centresRevision} + 1` })
    await log(tx, context, 'change-venue', { subject: { kind: 'office', id: code }, cycle: null, before, after: facts })
  })
}
