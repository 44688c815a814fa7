import { eq } from 'drizzle-orm'
import type { Channel } from '../../../core/identity/address'
import { refusal } from '../../../shared/refusal'
import { contact } from '../../database/schema'
import { carryOut, type Carried } from '../acts/carry-out'
import type { Given } from '../acts/given'
import type { Caller } from '../context'
import { checkedAddress } from '../letters/addresses'
import { postLetter } from '../letters/outbox'
import { accountOf } from './codes'

/**
 * Whoever lost every way in, or has none as they came in person, has proved to the office who they are: from then on the application
 * belongs to the account with this address, which is made where there is none. Signing in still takes a code that is sent there. The
 * addresses of the account that had it before are told.
 */
export async function giveAccess(
  caller: Caller,
  id: string,
  { channel, address: typed }: { channel: Channel, address: string },
  given: Given,
): Promise<Carried<null>> {
  // Before somebody else is asked to confirm it.
  const { db } = await caller.authorise('applications.override', { application: id })
  const address = await checkedAddress(db, channel, typed)
  return carryOut(caller, 'give-access', id, given, async ({ tx, context, row, notice }) => {
    const owner = await accountOf(tx, context, channel, address)
    if (owner === row.ownerId) throw refusal('account.access-same', { number: row.number, address })
    const before = row.ownerId ? await tx.select().from(contact).where(eq(contact.principalId, row.ownerId)) : []
    for (const one of before) {
      await postLetter(tx, context, {
        principalId: one.principalId,
        channel: one.channel,
        address: one.address,
        ...context.language.letters.accessLetter(notice, row.number),
      })
    }
    return { result: null, columns: { ownerId: owner }, before: { owner: row.ownerId }, after: { owner, channel } }
  })
}
