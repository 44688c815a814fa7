import { and, eq, sql } from 'drizzle-orm'
import type { Executor } from '../../database/client'
import { ledgerLine, ledgerTransaction } from '../../database/schema'

/** Money received for an application, in minor units, from the ledger. */
export async function receivedFor(tx: Executor, applicationId: string): Promise<number> {
  const [row] = await tx.select({ sum: sql<string>`coalesce(sum(${ledgerLine.amount}), 0)` }).from(ledgerLine)
    .innerJoin(ledgerTransaction, eq(ledgerTransaction.id, ledgerLine.transactionId))
    .where(and(eq(ledgerTransaction.applicationId, applicationId), eq(ledgerLine.account, 'gateway clearing')))
  return Number(row?.sum ?? 0)
}
