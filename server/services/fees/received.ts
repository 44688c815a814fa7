import { and, eq, inArray, sql } from 'drizzle-orm'
import type { Executor } from '../../database/client'
import { ledgerLine, ledgerTransaction } from '../../database/schema'

/** Money received for an application, in minor units, from the ledger. */
export async function receivedFor(tx: Executor, applicationId: string): Promise<number> {
  return (await receivedForMany(tx, [applicationId])).get(applicationId) ?? 0
}

/** The same for many applications; those for whom nothing came are left out. */
export async function receivedForMany(tx: Executor, applicationIds: readonly string[]): Promise<Map<string, number>> {
  if (applicationIds.length === 0) return new Map()
  const rows = await tx.select({ id: ledgerTransaction.applicationId, sum: sql<string>`sum(${ledgerLine.amount})` }).from(ledgerLine)
    .innerJoin(ledgerTransaction, eq(ledgerTransaction.id, ledgerLine.transactionId))
    .where(and(inArray(ledgerTransaction.applicationId, [...applicationIds]), eq(ledgerLine.account, 'gateway clearing'))).groupBy(ledgerTransaction.applicationId)
  return new Map(rows.map(row => [row.id, Number(row.sum)]))
}
