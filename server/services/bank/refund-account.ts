import { eq } from 'drizzle-orm'
import { isIban } from '../../../core/bank/check-digits'
import type { RefundAccount } from '../../../shared/bank'
import { refusal } from '../../../shared/refusal'
import { refundAccount } from '../../database/schema'
import { carryOut } from '../acts/carry-out'
import type { Given } from '../acts/given'
import type { Caller } from '../context'

/**
 * Says to which account what is owed back may go, where it cannot go the way that it came. The office sees it when it proposes a refund.
 *
 * @throws ProblemError `bank.number` for an account number whose check digits do not agree.
 */
export async function giveRefundAccount(
  caller: Caller,
  applicationId: string,
  { payee, number, ...given }: { payee: string, number: string } & Given,
): Promise<void> {
  if (/^[A-Z]{2}\d\d/.test(number) && !isIban(number)) throw refusal('bank.number', { number })
  await carryOut(caller, 'give-account', applicationId, { ...given, again: { result: null } }, async ({ tx, context }) => {
    const values = { payee, number, by: context.principal.id, at: context.now() }
    await tx.insert(refundAccount).values({ applicationId, ...values }).onConflictDoUpdate({
      target: refundAccount.applicationId,
      set: values,
    })
    return { result: null, after: { payee, account: number } }
  })
}

/** The account that was given last; null before any was. */
export async function readRefundAccount(caller: Caller, applicationId: string): Promise<RefundAccount | null> {
  const { db } = await caller.authorise('refunds.account', { application: applicationId })
  const [row] = await db.select().from(refundAccount).where(eq(refundAccount.applicationId, applicationId))
  return row ? { payee: row.payee, number: row.number, at: row.at.toISOString() } : null
}
