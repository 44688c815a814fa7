import { sql } from 'drizzle-orm'
import type { Executor } from '../../database/client'
import { bankLine, type bankMatch } from '../../database/schema'
import type { Context } from '../context'

export type LineRow = typeof bankLine.$inferSelect
type MatchRow = Omit<typeof bankMatch.$inferInsert, 'by' | 'at' | 'undoneBy' | 'undoneAt'>

/** Writes explanations of lines, many in one statement, and marks the lines as explained. */
export async function writeMatches(tx: Executor, context: Context, rows: readonly MatchRow[]): Promise<void> {
  if (rows.length === 0) return
  await tx.execute(sql`
    insert into bank_match (id, line_id, explanation, step, score, reasons, parts, settlement_id, refunds, by, at)
    select id, "lineId", explanation, step, score, reasons, parts, "settlementId", coalesce(refunds, '[]'::jsonb), ${context.principal.id}, ${context.now().toISOString()}::timestamptz
    from jsonb_to_recordset(${
    JSON.stringify(rows)
  }::jsonb) as match(id uuid, "lineId" uuid, explanation text, step text, score integer, reasons jsonb, parts jsonb, "settlementId" uuid, refunds jsonb)`)
  await tx.update(bankLine).set({ state: 'explained', best: null })
    .where(sql`${bankLine.id} = any(${sql.param(rows.map(row => row.lineId))}::uuid[])`)
}
