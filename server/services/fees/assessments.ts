import { and, desc, eq, gt } from 'drizzle-orm'
import { assessFee, type Assessment } from '../../../core/fees/assess'
import { assessmentLines, feeState, isBalanced, type LedgerLine, type TransactionKind } from '../../../core/fees/ledger'
import type { Tracks } from '../../../core/application/tracks'
import { isEqual } from '../../../core/notice/edit'
import { refusal } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { feeAssessment, ledgerLine, ledgerTransaction, payment } from '../../database/schema'
import { log, type Context } from '../context'
import { countedAnswers, type ApplicationRow } from '../applications/store'
import { scheduleFor } from '../notice/in-force'
import type { CurrentNotice } from '../notice/notices'
import { receivedFor, surplusesOf } from './received'

export interface Assessed { version: number, assessment: Assessment, noticeVersion: number | null }

/** The assessment in force; null before the first. */
export async function currentAssessment(tx: Executor, applicationId: string): Promise<Assessed | null> {
  const [row] = await tx.select().from(feeAssessment).where(eq(feeAssessment.applicationId, applicationId)).orderBy(desc(feeAssessment.version)).limit(1)
  return row ?? null
}

/** Assesses the fee of an application that the transaction holds, books the difference, and gives the fee's new state. An amendment that let fees stay does not touch it. */
export async function reassess(tx: Executor, context: Context, row: ApplicationRow, under: CurrentNotice): Promise<Tracks['fee']> {
  const old = await currentAssessment(tx, row.id)
  const schedule = await scheduleFor(tx, under, old?.noticeVersion ?? null)
  const assessment = assessFee(schedule.notice, countedAnswers(schedule.notice, row), row.submittedAt ?? context.now())
  if (!assessment) throw refusal('fee.no-category', { number: row.number })
  // The database gives the parts in an order of its own.
  if (!isEqual(old?.assessment, assessment)) {
    const version = (old?.version ?? 0) + 1
    await tx.insert(feeAssessment).values({ id: context.newId(), applicationId: row.id, version, assessment, at: context.now(), noticeVersion: schedule.version })
    const difference = assessment.total - (old?.assessment.total ?? 0)
    if (difference !== 0) await book(tx, context, { applicationId: row.id, source: `assessment:${row.id}:${version}`, kind: 'assessment', currency: assessment.currency.code, lines: assessmentLines(difference) })
    await log(tx, context, 'assess-fee', { subject: { kind: 'application', id: row.id }, cycle: row.cycle, before: old?.assessment, after: assessment, noticeVersion: schedule.version })
  }
  return feeStateOf(tx, context, row.id)
}

/** One movement of money: whom it concerns, what it comes from, and lines that balance. */
export interface Posting { applicationId: string | null, source: string, kind: TransactionKind, currency: string, lines: LedgerLine[] }

/**
 * Books one transaction. The same source again books nothing: that is what keeps money from being counted twice. A credit that it leaves on what an applicant
 * owes is moved at once to what is owed back.
 */
export async function book(tx: Executor, context: Context, posting: Posting): Promise<boolean> {
  if (!await bookAlone(tx, context, posting)) return false
  const surpluses = posting.applicationId ? await surplusesOf(tx, [posting.applicationId]) : []
  for (const { application, source, lines } of surpluses) await bookAlone(tx, context, { applicationId: application, source, kind: 'surplus', currency: posting.currency, lines })
  return true
}

async function bookAlone(tx: Executor, context: Context, { applicationId, source, kind, currency, lines }: Posting): Promise<boolean> {
  if (!isBalanced(lines)) throw refusal('fee.unbalanced', { source })
  const [transaction] = await tx.insert(ledgerTransaction).values({ id: context.newId(), applicationId, source, kind, currency, at: context.now() })
    .onConflictDoNothing({ target: ledgerTransaction.source }).returning()
  if (!transaction) return false
  await tx.insert(ledgerLine).values(lines.map(line => ({ id: context.newId(), transactionId: transaction.id, ...line })))
  return true
}

/** Where the fee stands by assessment, ledger and payments under way. */
export async function feeStateOf(tx: Executor, context: Context, applicationId: string): Promise<Tracks['fee']> {
  const assessed = await currentAssessment(tx, applicationId)
  const received = await receivedFor(tx, applicationId)
  const [open] = await tx.select({ id: payment.id }).from(payment)
    .where(and(eq(payment.applicationId, applicationId), eq(payment.state, 'open'), gt(payment.expiresAt, context.now())))
  return feeState(assessed?.assessment.total ?? null, received, open !== undefined)
}
