import { and, desc, eq, inArray, isNotNull, isNull } from 'drizzle-orm'
import { product } from '../../../core/access/principal'
import { isIban } from '../../../core/bank/check-digits'
import { gatewayRefundLines, refundLines, reversed, type LedgerLine } from '../../../core/fees/ledger'
import type { RefundInput, RefundsPage } from '../../../shared/bank'
import { grouped } from '../../../shared/grouped'
import { ProblemError } from '../../../shared/problem'
import { refusal } from '../../../shared/refusal'
import { paymentOrderFile } from '../../../statements/pain001'
import type { Executor } from '../../database/client'
import { application, paymentFile, refund, refundAccount, type RefundState } from '../../database/schema'
import type { PaymentGateway } from '../../standins/gateway'
import { log, type Caller, type Context } from '../context'
import { bringFile, keepFile, readFile } from '../files/bytes'
import { bookMany } from '../fees/book'
import { lockApplications, moveMoney } from '../fees/receive'
import { namesOf, type NameOf } from '../people/names'
import { accountOf, spelledIn } from './accounts'
import { oweBack, oweNoMore, ordersLeft, owedBack, sourceOf, type RefundRow } from './refund-sources'

const underWay: RefundState[] = ['proposed', 'approved']

/** Whom something is owed, every refund, and the payment files that were made. */
export async function readRefunds(caller: Caller): Promise<RefundsPage> {
  const { db } = await caller.authorise('bank.read')
  const owed = await owedBack(db, null)
  const rows = await db.select({ refund, number: application.number, name: application.displayName, file: paymentFile.reference })
    .from(refund).leftJoin(application, eq(application.id, refund.applicationId)).leftJoin(paymentFile, eq(paymentFile.id, refund.fileId))
    .orderBy(desc(refund.at)).limit(200)
  const files = await db.select().from(paymentFile).orderBy(desc(paymentFile.at)).limit(50)
  const name = await namesOf(db, [...rows.flatMap(row => [row.refund.by, row.refund.settledBy]), ...files.map(row => row.by)])
  const orders = await ordersLeft(db, owed.map(one => one.id))
  const accounts =
    new Map((await db.select().from(refundAccount).where(inArray(refundAccount.applicationId, owed.map(one => one.id)))).map(
      row => [row.applicationId, { payee: row.payee, number: row.number, at: row.at.toISOString() }]
    ))
  return {
    owed: owed.flatMap(({ id, number, name: who, currency, owed: all, under }) =>
      Number(all) <= Number(under)
        ? []
        : [{
          applicationId: id,
          number,
          name: who,
          amount: Number(all) - Number(under),
          currency,
          account: accounts.get(id) ?? null,
          orders: (orders.get(id) ?? []).filter(one => one.currency === currency).map(({ order, left }) => ({ order, left })),
        }]
    ),
    refunds: rows.map(row => refundView(row, name)),
    files: files.map(({ id, reference, payments, sum, currency, by, at }) => ({
      id,
      reference,
      payments,
      sum,
      currency,
      by: name(by),
      at: at.toISOString(),
    })),
  }
}

interface FoundRefund {
  refund: RefundRow
  number: string | null
  name: string | null
  file: string | null
}

function refundView({ refund: one, number, name: who, file }: FoundRefund, name: NameOf): RefundsPage['refunds'][number] {
  const { id, reference, applicationId, amount, currency, payee, number: account, gatewayOrder: order, reason, state, by, settledBy } = one
  const of = applicationId !== null && number !== null && who !== null ? { id: applicationId, number, name: who } : null
  const people = { by: name(by), byId: by, settledBy: settledBy ? name(settledBy) : null }
  return { id, reference, of, amount, currency, payee, number: account, order, reason, state, at: one.at.toISOString(), file, ...people }
}

/**
 * Proposes a refund. Nothing moves until a second person has approved it.
 *
 * @throws ProblemError `refund.too-much` for more than is owed and not on its way, `refund.order` for more than the gateway can give back
 * of an order, `bank.number` for an account number whose check digits do not agree.
 */
export async function proposeRefund(caller: Caller, given: RefundInput): Promise<{ id: string }> {
  const context = await caller.authorise('bank.work')
  const { payee, number } = 'number' in given ? given : { payee: '', number: '' }
  if (/^[A-Z]{2}\d\d/.test(number) && !isIban(number)) throw refusal('bank.number', { number })
  return context.db.transaction(async (tx) => {
    const id = context.newId()
    const { cycle, ...source } = await sourceOf(tx, context, id, given)
    const row = {
      id,
      reference: `REFUND-${id.slice(0, 8)}-${id.slice(9, 13)}`.toUpperCase(),
      ...source,
      payee,
      number,
      reason: given.reason,
      state: 'proposed' as const,
      by: context.principal.id,
      at: context.now(),
    }
    await tx.insert(refund).values(row)
    if (source.applicationId === null) await oweBack(tx, context, row)
    await log(tx, context, 'propose-refund', {
      subject: subjectOf(row),
      cycle: cycle ?? undefined,
      reason: given.reason,
      after: {
        refund: id,
        amount: row.amount,
        ...source.gatewayOrder === null ? { payee, account: number } : { order: source.gatewayOrder },
      },
    })
    return { id }
  })
}

const subjectOf = ({ applicationId }: Pick<RefundRow, 'applicationId'>) =>
  applicationId === null ? { kind: 'office' as const, id: 'bank' } : { kind: 'application' as const, id: applicationId }

/** Approves a refund, as a second person, or lays it aside before it was sent. One that goes back through the gateway is sent at once. */
export async function answerRefund(caller: Caller, gateway: PaymentGateway, id: string, answer: 'approve' | 'withdraw'): Promise<void> {
  const context = await caller.authorise('refunds.approve')
  const sent = await context.db.transaction(async (tx) => {
    const [row] = await tx.select().from(refund).where(eq(refund.id, id)).for('update')
    if (!row) throw refusal('refund.unknown')
    if (answer === 'approve' ? row.state !== 'proposed' : !underWay.includes(row.state)) throw refusal('refund.state', { state: row.state })
    if (answer === 'approve' && row.by === context.principal.id) throw refusal('refund.self')
    const isSent = answer === 'approve' && row.gatewayOrder !== null
    if (isSent) await refuseOverdrawn(tx, [row])
    await tx.update(refund).set({
      state: isSent ? 'sent' : answer === 'approve' ? 'approved' : 'withdrawn',
      settledBy: context.principal.id,
      settledAt: context.now(),
    }).where(eq(refund.id, id))
    if (isSent) await moveRefunds(tx, context, [row], 'sent', gatewayRefundLines, 'refund-sent')
    if (answer === 'withdraw') await oweNoMore(tx, context, [row])
    await log(tx, context, answer === 'approve' ? 'approve-refund' : 'withdraw-refund', {
      subject: subjectOf(row),
      after: { refund: id, amount: row.amount },
    })
    return isSent ? row : null
  })
  // After the commit: what the gateway is asked for must stand in the books. While it is silent it is asked again.
  if (sent) await settleWithGateway(context, gateway, sent).catch(whileSilent)
}

/**
 * Makes one payment file of all approved refunds in the currency of an account, and books them as sent. The file can be fetched again; the
 * refunds are in no other.
 */
export async function sendRefunds(caller: Caller, accountId: string): Promise<{ id: string }> {
  const context = await caller.authorise('bank.work')
  const account = await accountOf(context.db, accountId)
  return context.db.transaction(async (tx) => {
    const rows = await tx.select().from(refund)
      .where(and(eq(refund.state, 'approved'), isNull(refund.gatewayOrder), eq(refund.currency, account.currency))).orderBy(
        refund.at,
        refund.id,
      ).limit(5000).for('update')
    if (rows.length === 0) throw refusal('refund.none', { currency: account.currency })
    await refuseOverdrawn(tx, rows)
    const at = context.now()
    const id = context.newId()
    const reference = `LR-${at.toISOString().slice(0, 10).replaceAll('-', '')}-${id.slice(0, 8)}`.toUpperCase()
    const numbers =
      new Map((await tx.select({ id: application.id, number: application.number }).from(application)
        .where(inArray(application.id, applicationsOf(rows)))).map(row => [row.id, row.number]))
    const xml = paymentOrderFile({
      reference,
      at,
      on: at.toISOString().slice(0, 10),
      currency: account.currency,
      payer: { holder: account.holder, number: account.number, bic: account.bic },
      payments: rows.map(row => ({
        reference: row.reference,
        amount: row.amount,
        payee: row.payee,
        number: row.number,
        text: `${row.reference} ${numbers.get(row.applicationId ?? '') ?? ''}`,
      })),
    })
    const sha256 = await keepFile(tx, await bringFile(tx, Buffer.from(xml)))
    const sum = rows.reduce((total, row) => total + row.amount, 0)
    await tx.insert(paymentFile).values({
      id,
      accountId,
      reference,
      currency: account.currency,
      payments: rows.length,
      sum,
      sha256,
      by: context.principal.id,
      at,
    })
    await tx.update(refund).set({ state: 'sent', fileId: id }).where(inArray(refund.id, rows.map(row => row.id)))
    await moveRefunds(tx, context, rows, 'sent', refundLines, 'refund-sent')
    await log(tx, context, 'send-refunds', {
      subject: { kind: 'office', id: 'bank' },
      after: { file: reference, payments: rows.length, sum },
    })
    return { id }
  })
}

// What was owed back when it was approved may pay a later due meanwhile.
async function refuseOverdrawn(tx: Executor, rows: readonly RefundRow[]): Promise<void> {
  const held = await lockApplications(tx, applicationsOf(rows))
  for (const [id, own] of grouped(rows, row => row.applicationId)) {
    if (id === null) continue
    const owed = (await owedBack(tx, id)).find(one => one.currency === own[0]?.currency)
    const amount = own.reduce((sum, row) => sum + row.amount, 0)
    const currency = own[0]?.currency ?? ''
    if (Number(owed?.owed ?? 0) < amount) {
      throw refusal('refund.too-much', {
        number: held.get(id)?.number ?? '',
        owed: spelledIn(currency, Number(owed?.owed ?? 0)),
        under: spelledIn(currency, 0),
        amount: spelledIn(currency, amount),
      })
    }
  }
}

/**
 * Books a movement of refunds and lets each application's fee follow. `stage` and `at` make the source: what happens again, as after a
 * return, is another movement.
 */
export async function moveRefunds(
  tx: Executor,
  context: Context,
  rows: readonly RefundRow[],
  stage: string,
  lines: (amount: number) => LedgerLine[],
  act: 'refund-sent' | 'refund-returned' | null,
): Promise<void> {
  const held = await lockApplications(tx, applicationsOf(rows))
  const [currency] = rows.map(row => row.currency)
  if (currency === undefined) return
  const moves = rows.map(row => ({
    application: row.applicationId,
    amount: row.amount,
    source: `refund:${row.id}:${stage}`,
    lines: lines(row.amount),
  }))
  await bookMany(tx, context.now(), currency, 'refund', moves.filter(move => move.application === null))
  await moveMoney(
    tx,
    { ...context, principal: product },
    held,
    currency,
    'refund',
    moves.flatMap(({ application, ...move }) => application === null ? [] : [{ application, ...move }]),
    act,
  )
}

const applicationsOf = (rows: readonly RefundRow[]): string[] => rows.flatMap(row => row.applicationId ?? [])

/** Asks the gateway about a refund that was sent through it, and takes its word: it is done, or what was to go back is owed again. */
async function settleWithGateway(
  asker: Context,
  gateway: PaymentGateway,
  { id, reference, gatewayOrder, amount, currency }: RefundRow,
): Promise<void> {
  if (gatewayOrder === null) return
  const said = await gateway.refund({ reference, order: gatewayOrder, amount, currency })
  if (said === 'under way') return
  const context: Context = { ...asker, principal: product }
  await context.db.transaction(async (tx) => {
    const rows = await tx.update(refund).set({ state: said === 'paid back' ? 'left' : 'returned' })
      .where(and(eq(refund.id, id), eq(refund.state, 'sent'))).returning()
    if (said === 'paid back') return
    await moveRefunds(tx, context, rows, 'returned', owed => reversed(gatewayRefundLines(owed)), 'refund-returned')
    await oweNoMore(tx, context, rows)
  })
}

const whileSilent = (error: unknown): true => {
  if (error instanceof ProblemError && error.problem.code === 'payment.gateway-silent') return true
  throw error
}

/** Asks about every refund that the gateway has not decided on; for the timer. */
export async function sweepGatewayRefunds(caller: Caller, gateway: PaymentGateway): Promise<number> {
  const context = await caller.authorise('clock.act')
  const rows = await context.db.select().from(refund).where(and(eq(refund.state, 'sent'), isNotNull(refund.gatewayOrder)))
    .orderBy(refund.at).limit(200)
  for (const row of rows) if (await settleWithGateway(context, gateway, row).catch(whileSilent)) return 0
  return rows.length
}

/** The payment file as it was made. */
export async function readPaymentFile(caller: Caller, id: string): Promise<{ name: string, xml: Buffer }> {
  const { db } = await caller.authorise('bank.work')
  const [row] = await db.select().from(paymentFile).where(eq(paymentFile.id, id))
  if (!row) throw refusal('refund.unknown')
  return { name: `${row.reference}.xml`, xml: await readFile(db, row.sha256) }
}
