import { eq } from 'drizzle-orm'
import { touchesSeats } from '../../../core/seating/stands'
import type { Notice } from '../../../core/notice/schema'
import type { Executor } from '../../database/client'
import { reviewSeat, type SeatTotals } from '../../database/schema'
import { unsettledPeople } from '../centres/unsettled'

/** What a proposed notice would do to seats that people were told: sessions and test papers that go, or lie at another hour. */

export const noSeatChanges: SeatTotals = { gone: 0, anotherHour: 0 }

/** Lists everybody whose seats would not all stand, and adds to the totals. */
export async function reviewSeats(
  db: Executor,
  reviewId: string,
  cycle: string,
  { base, under }: { base: Notice, under: Notice },
  totals: SeatTotals,
): Promise<void> {
  await db.delete(reviewSeat).where(eq(reviewSeat.reviewId, reviewId))
  if (!touchesSeats(base, under)) return
  for await (const page of unsettledPeople(db, cycle, base, under)) {
    if (page.length === 0) continue
    totals.gone += page.filter(one => one.fate === 'gone').length
    totals.anotherHour += page.filter(one => one.fate === 'another hour').length
    await db.insert(reviewSeat).values(page.map(({ row, fate }) => ({ reviewId, applicationId: row.id, number: row.number, fate })))
  }
}
