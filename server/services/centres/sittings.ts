import { and, eq, sql } from 'drizzle-orm'
import type { AllocationCity, Sittings } from '../../../core/allocation/instance'
import type { SeatRow } from '../../../core/allocation/kept'
import type { Notice } from '../../../core/notice/schema'
import type { SessionSeats } from '../../../shared/centres'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { seat } from '../../database/schema'
import type { InputScope, Locked } from './asked'

/** The seats that a run may count on, less those that were published before where only people who wait are placed. */
export async function freeSeats(db: Executor, cycle: string, scope: InputScope, seats: readonly SessionSeats[]): Promise<SessionSeats[]> {
  const used = scope !== 'waiting'
    ? []
    : await db.select({
      city: seat.city,
      session: seat.session,
      all: sql<string>`count(*)`,
      accessible: sql<string>`count(*) filter (where ${seat.accessible})`,
    }).from(seat).where(and(eq(seat.cycle, cycle))).groupBy(seat.city, seat.session)
  const taken = new Map(used.map(row => [`${row.city}/${row.session}`, row]))
  return seats.map((row) => {
    const { all = 0, accessible = 0 } = taken.get(`${row.city}/${row.session}`) ?? {}
    const left = Math.max(0, row.seats - Number(all))
    return { ...row, seats: left, accessibleSeats: Math.max(0, Math.min(left, row.accessibleSeats - Number(accessible))) }
  })
}

/**
 * Gives people placed by hand the first way through their sessions that has seats in their city, and takes those off. @throws ProblemError
 * for a city that has none left.
 */
export function seatLocked(
  { cities, sessions }: Notice,
  kinds: Sittings['kinds'],
  free: readonly SessionSeats[],
  locked: Locked[],
): SessionSeats[] {
  const left = new Map(free.map(row => [`${row.city}/${row.session}`, { ...row }]))
  for (const one of locked) {
    const rowsOf = (way: readonly number[]) => way.flatMap(at => left.get(`${one.city}/${sessions[at]?.id ?? ''}`) ?? [])
    // Kept seats are set apart only when it is known who was placed by hand.
    const ways = one.kind === null ? [] : kinds[one.kind]?.ways.filter(way => way.every(at => at < sessions.length)) ?? []
    const way = ways.find(w => rowsOf(w).every(row => row.seats > 0 && (!one.needs || row.accessibleSeats > 0)))
    if (!way) {
      throw refusal('run.hand-full', {
        city: cities.find(c => c.id === one.city)?.title ?? one.city,
        count: locked.filter(l => l.city === one.city).length,
      })
    }
    for (const row of rowsOf(way)) {
      row.seats -= 1
      row.accessibleSeats = Math.min(row.seats, row.accessibleSeats - (one.needs ? 1 : 0))
    }
    one.sessions = way.map(at => sessions[at]?.id ?? '')
  }
  return [...left.values()]
}

/** The free seats of every city over all sessions, kept ones too. */
export const citiesOf = (notice: Notice, free: readonly SeatRow[]): AllocationCity[] =>
  notice.cities.map(({ id, lat, lon }) => {
    const sum = (kind: 'seats' | 'accessibleSeats') => free.reduce((n, row) => row.city === id ? n + row[kind] : n, 0)
    return { id, lat, lon, capacity: sum('seats'), accessibleCapacity: sum('accessibleSeats') }
  })
