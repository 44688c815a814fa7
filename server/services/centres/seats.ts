import { and, inArray, isNull } from 'drizzle-orm'
import type { Executor } from '../../database/client'
import { admitCard, seat } from '../../database/schema'
import { carryOut, type Carried } from '../acts/carry-out'
import type { Given } from '../acts/given'
import type { Caller, Context } from '../context'

/** Takes seats; a card that was issued for one is void. */
export async function unseat(tx: Executor, context: Context, applicationIds: readonly string[]): Promise<void> {
  for (let from = 0; from < applicationIds.length; from += 1000) {
    const ids = applicationIds.slice(from, from + 1000)
    await tx.delete(seat).where(inArray(seat.applicationId, ids))
    await tx.update(admitCard).set({ voidAt: context.now() }).where(and(inArray(admitCard.applicationId, ids), isNull(admitCard.voidAt)))
  }
}

/** Takes one published seat back; the person waits for a place again. */
export function takeSeatBack(caller: Caller, applicationId: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'take-seat-back', applicationId, given, async ({ tx, context, row }) => {
    const [held] = await tx.select().from(seat).where(inArray(seat.applicationId, [row.id])).orderBy(seat.ordinal)
    await unseat(tx, context, [row.id])
    return { result: null, before: { placement: row.placement, card: row.card, ...held }, after: { placement: 'unplaced', card: 'not issued' } }
  })
}
