import { and, inArray, isNull } from 'drizzle-orm'
import type { Notice } from '../../../core/notice/schema'
import type { Sitting } from '../../../core/seating/sittings'
import type { Executor } from '../../database/client'
import { admitCard, seat } from '../../database/schema'
import { carryOut, type Carried } from '../acts/carry-out'
import type { Given } from '../acts/given'
import type { Caller, Context } from '../context'

/** Takes seats; a card that was issued for one is void. */
export async function unseat(tx: Executor, context: Context, applicationIds: readonly string[]): Promise<void> {
  for (let from = 0; from < applicationIds.length; from += 1000) {
    await tx.delete(seat).where(inArray(seat.applicationId, applicationIds.slice(from, from + 1000)))
  }
  await voidCards(tx, context, applicationIds)
}

/** Cards in force of some people do not hold from now on. */
export async function voidCards(tx: Executor, context: Context, applicationIds: readonly string[]): Promise<void> {
  for (let from = 0; from < applicationIds.length; from += 1000) {
    await tx.update(admitCard).set({ voidAt: context.now() })
      .where(and(inArray(admitCard.applicationId, applicationIds.slice(from, from + 1000)), isNull(admitCard.voidAt)))
  }
}

/** What the record says of the seats of one person. */
export function seatsAsRecorded(
  { cities, testPapers, sessions }: Notice,
  rows: readonly (Sitting & { roll: string })[],
): Record<string, unknown> {
  const [first] = rows
  if (!first || rows.length === 1) return { ...first }
  const title = (list: readonly { id: string, title: string }[], id: string) => list.find(one => one.id === id)?.title ?? id
  const rooms = cities.find(city => city.id === first.city)?.venues.flatMap(venue => venue.rooms) ?? []
  return {
    city: first.city,
    roll: first.roll,
    sittings: rows.map(row => ({
      item: title(testPapers, row.paper),
      reason: `${title(sessions, row.session)}, ${title(rooms, row.room)} ${row.seat}`,
    })),
  }
}

const ofASeat = ['city', 'venue', 'room', 'session', 'seat', 'sittings', 'roll']
/** What is not any more when a seat is taken back, so that the record tells what was. */
export const noSeat = (before: Record<string, unknown> | undefined): Record<string, null> =>
  Object.fromEntries(Object.keys(before ?? {}).filter(key => ofASeat.includes(key)).map(key => [key, null]))

/** Takes one published seat back; the person waits for a place again. */
export function takeSeatBack(caller: Caller, applicationId: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'take-seat-back', applicationId, given, async ({ tx, context, row }) => {
    const [held] = await tx.select().from(seat).where(inArray(seat.applicationId, [row.id])).orderBy(seat.ordinal)
    await unseat(tx, context, [row.id])
    return {
      result: null,
      before: { placement: row.placement, card: row.card, ...held },
      after: { ...noSeat(held), placement: 'unplaced', card: row.card === 'withheld' ? row.card : 'not issued' },
    }
  })
}
