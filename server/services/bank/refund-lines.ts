import { and, eq, inArray, sql } from 'drizzle-orm'
import { owedBackLines, refundLeftLines, reversed } from '../../../core/fees/ledger'
import type { Executor } from '../../database/client'
import { bankLine, paymentFile, refund } from '../../database/schema'
import type { Context } from '../context'
import { oweNoMore, type RefundRow } from './refund-sources'
import { moveRefunds } from './refunds'
import { writeMatches, type LineRow } from './writing'

const single = /REFUND-[0-9A-F]{8}-[0-9A-F]{4}/g
const whole = /LR-\d{8}-[0-9A-F]{8}/g
const linesAtOnce = 2000

/**
 * Lines that name refunds: money that left for one of them, or for a whole payment file in one sum, and money that came back. Only the very
 * amount counts; the rest waits for a person.
 *
 * @returns how many lines were explained.
 */
export async function matchRefunds(context: Context): Promise<number> {
  return context.db.transaction(async (tx) => {
    const lines = await tx.select().from(bankLine).where(and(
      eq(bankLine.state, 'open'),
      sql`upper(coalesce(${bankLine.reference}, '') || ' ' || ${bankLine.text}) ~ '(REFUND-[0-9A-F]{8}-[0-9A-F]{4}|LR-[0-9]{8}-[0-9A-F]{8})'`,
    )).orderBy(bankLine.bookedOn, bankLine.position).limit(linesAtOnce).for('update', { skipLocked: true })
    let explained = 0
    for (const line of lines) if (await explainRefundLine(tx, context, line)) explained += 1
    return explained
  })
}

async function explainRefundLine(tx: Executor, context: Context, line: LineRow): Promise<boolean> {
  const rows = await namedRefunds(tx, line, line.amount < 0 ? 'sent' : 'left')
  if (
    rows.length === 0 || rows.reduce((sum, row) => sum + row.amount, 0) !== Math.abs(line.amount)
    || rows.some(row => row.currency !== line.currency)
  ) return false
  const isOut = line.amount < 0
  const matchId = context.newId()
  await writeMatches(tx, context, [{
    id: matchId,
    lineId: line.id,
    explanation: isOut ? 'refund' : 'refund returned',
    step: 'reference',
    score: 100,
    reasons: ['reference', 'amount-fits'],
    parts: [],
    settlementId: null,
    refunds: rows.map(row => row.id),
  }])
  await tx.update(refund).set({ state: isOut ? 'left' : 'returned' }).where(inArray(refund.id, rows.map(row => row.id)))
  // Taken back and found again it leaves a second time: the explanation makes each movement its own.
  if (isOut) await moveRefunds(tx, context, rows, `left:${matchId}`, refundLeftLines, null)
  else {
    await moveRefunds(tx, context, rows, 'returned', owedBackLines, 'refund-returned')
    await oweNoMore(tx, context, rows)
  }
  return true
}

async function namedRefunds(tx: Executor, line: LineRow, state: 'sent' | 'left'): Promise<RefundRow[]> {
  const text = `${line.reference ?? ''} ${line.text}`.toUpperCase()
  const [ones, files] = [[...text.matchAll(single)].map(match => match[0]), [...text.matchAll(whole)].map(match => match[0])]
  if (ones.length > 0) return tx.select().from(refund).where(and(inArray(refund.reference, ones), eq(refund.state, state))).for('update')
  if (files.length === 0) return []
  const rows = await tx.select({ refund }).from(refund).innerJoin(paymentFile, eq(paymentFile.id, refund.fileId))
    .where(and(inArray(paymentFile.reference, files), eq(refund.state, state))).for('update', { of: refund })
  return rows.map(row => row.refund)
}

/** Takes back that refunds have left with a line: they are on their way again. */
export async function unmatchRefunds(tx: Executor, context: Context, ids: readonly string[], matchId: string): Promise<void> {
  const rows = await tx.update(refund).set({ state: 'sent' }).where(and(inArray(refund.id, [...ids]), eq(refund.state, 'left'))).returning()
  await moveRefunds(tx, context, rows, `left:${matchId}:back`, amount => reversed(refundLeftLines(amount)), null)
}
