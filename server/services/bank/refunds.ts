import { and, desc, eq, inArray, sql } from 'drizzle-orm'
import { product } from '../../../core/access/principal'
import { isIban } from '../../../core/bank/check-digits'
import { refundLines, type LedgerLine } from '../../../core/fees/ledger'
import type { RefundInput, RefundsPage } from '../../../shared/bank'
import { grouped } from '../../../shared/grouped'
import { refusal } from '../../../shared/problem'
import { paymentOrderFile } from '../../../statements/pain001'
import type { Executor } from '../../database/client'
import { application, paymentFile, refund, type RefundState } from '../../database/schema'
import { log, type Caller, type Context } from '../context'
import { bringFile, keepFile, readFile } from '../files/bytes'
import { lockApplications, moveMoney } from '../fees/receive'
import { namesOf } from '../people/names'
import { accountOf, spelledIn } from './accounts'

type RefundRow = typeof refund.$inferSelect
const underWay: RefundState[] = ['proposed', 'approved']

interface Owed extends Record<string, unknown> { id: string, number: string, name: string, currency: string, owed: string, under: string }
/** What is owed back, and what of it a refund is on its way for. */
async function owedBack(tx: Executor, only: string | null): Promise<Owed[]> {
  const { rows } = await tx.execute<Owed>(sql`
    select a.id, a.number, a.display_name as name, t.currency, -sum(l.amount) as owed,
      coalesce((select sum(r.amount) from refund r where r.application_id = a.id and r.currency = t.currency and r.state in ('proposed', 'approved')), 0) as under
    from ledger_line l join ledger_transaction t on t.id = l.transaction_id join application a on a.id = t.application_id
    where l.account = 'refunds payable' ${only ? sql`and a.id = ${only}` : sql``} group by a.id, t.currency having sum(l.amount) < 0 order by a.number limit 500`)
  return rows
}

/** Whom something is owed, every refund, and the payment files that were made. */
export async function readRefunds(caller: Caller): Promise<RefundsPage> {
  const { db } = await caller.authorise('bank.read')
  const owed = await owedBack(db, null)
  const rows = await db.select({ refund, number: application.number, name: application.displayName, file: paymentFile.reference }).from(refund)
    .innerJoin(application, eq(application.id, refund.applicationId)).leftJoin(paymentFile, eq(paymentFile.id, refund.fileId)).orderBy(desc(refund.at)).limit(200)
  const files = await db.select().from(paymentFile).orderBy(desc(paymentFile.at)).limit(50)
  const name = await namesOf(db, [...rows.flatMap(row => [row.refund.by, row.refund.settledBy]), ...files.map(row => row.by)])
  return {
    owed: owed.flatMap(({ id, number, name: who, currency, owed: all, under }) => Number(all) > Number(under) ? [{ applicationId: id, number, name: who, amount: Number(all) - Number(under), currency }] : []),
    refunds: rows.map(({ refund: { id, reference, applicationId, amount, currency, payee, number: account, reason, state, by, at, settledBy }, number, name: who, file }) => ({
      id, reference, applicationId, application: number, name: who, amount, currency, payee, number: account, reason, state, by: name(by), byId: by, at: at.toISOString(), settledBy: settledBy ? name(settledBy) : null, file,
    })),
    files: files.map(({ id, reference, payments, sum, currency, by, at }) => ({ id, reference, payments, sum, currency, by: name(by), at: at.toISOString() })),
  }
}

/**
 * Proposes a refund of what is owed back. Nothing moves until a second person has approved it.
 *
 * @throws ProblemError `refund.too-much` for more than is owed and not on its way, `bank.number` for an account number whose check digits do not agree.
 */
export async function proposeRefund(caller: Caller, given: RefundInput): Promise<{ id: string }> {
  const context = await caller.authorise('bank.work')
  const { application: applicationId, amount, payee, number, reason } = given
  if (/^[A-Z]{2}\d\d/.test(number) && !isIban(number)) throw refusal('bank.number', { number })
  return context.db.transaction(async (tx) => {
    const row = (await lockApplications(tx, [applicationId])).get(applicationId)
    if (!row) throw refusal('application.unknown')
    const [owed] = await owedBack(tx, applicationId)
    const [all, under] = [Number(owed?.owed ?? 0), Number(owed?.under ?? 0)]
    const currency = owed?.currency ?? ''
    if (!owed || amount > all - under) throw refusal('refund.too-much', { number: row.number, owed: spelledIn(currency, all), under: spelledIn(currency, under), amount: spelledIn(currency, amount) })
    const id = context.newId()
    await tx.insert(refund).values({ id, reference: `REFUND-${id.slice(0, 8)}-${id.slice(9, 13)}`.toUpperCase(), applicationId, amount, currency, payee, number, reason, state: 'proposed', by: context.principal.id, at: context.now() })
    await log(tx, context, 'propose-refund', { subject: { kind: 'application', id: applicationId }, cycle: row.cycle, reason, after: { refund: id, amount, payee, account: number } })
    return { id }
  })
}

/** Approves a refund, as a second person, or lays it aside before it was sent. */
export async function answerRefund(caller: Caller, id: string, answer: 'approve' | 'withdraw'): Promise<void> {
  const context = await caller.authorise('refunds.approve')
  await context.db.transaction(async (tx) => {
    const [row] = await tx.select().from(refund).where(eq(refund.id, id)).for('update')
    if (!row) throw refusal('refund.unknown')
    if (answer === 'approve' ? row.state !== 'proposed' : !underWay.includes(row.state)) throw refusal('refund.state', { state: row.state })
    if (answer === 'approve' && row.by === context.principal.id) throw refusal('refund.self')
    await tx.update(refund).set({ state: answer === 'approve' ? 'approved' : 'withdrawn', settledBy: context.principal.id, settledAt: context.now() }).where(eq(refund.id, id))
    await log(tx, context, answer === 'approve' ? 'approve-refund' : 'withdraw-refund', { subject: { kind: 'application', id: row.applicationId }, after: { refund: id, amount: row.amount } })
  })
}

/** Makes one payment file of all approved refunds in the currency of an account, and books them as sent. The file can be fetched again; the refunds are in no other. */
export async function sendRefunds(caller: Caller, accountId: string): Promise<{ id: string }> {
  const context = await caller.authorise('bank.work')
  const account = await accountOf(context.db, accountId)
  return context.db.transaction(async (tx) => {
    const rows = await tx.select().from(refund).where(and(eq(refund.state, 'approved'), eq(refund.currency, account.currency))).orderBy(refund.at, refund.id).limit(5000).for('update')
    if (rows.length === 0) throw refusal('refund.none', { currency: account.currency })
    await refuseOverdrawn(tx, rows)
    const at = context.now()
    const id = context.newId()
    const reference = `LR-${at.toISOString().slice(0, 10).replaceAll('-', '')}-${id.slice(0, 8)}`.toUpperCase()
    const numbers = new Map((await tx.select({ id: application.id, number: application.number }).from(application).where(inArray(application.id, rows.map(row => row.applicationId)))).map(row => [row.id, row.number]))
    const xml = paymentOrderFile({
      reference, at, on: at.toISOString().slice(0, 10), currency: account.currency, payer: { holder: account.holder, number: account.number, bic: account.bic },
      payments: rows.map(row => ({ reference: row.reference, amount: row.amount, payee: row.payee, number: row.number, text: `${row.reference} ${numbers.get(row.applicationId) ?? ''}` })),
    })
    const sha256 = await keepFile(tx, await bringFile(tx, Buffer.from(xml)))
    const sum = rows.reduce((total, row) => total + row.amount, 0)
    await tx.insert(paymentFile).values({ id, accountId, reference, currency: account.currency, payments: rows.length, sum, sha256, by: context.principal.id, at })
    await tx.update(refund).set({ state: 'sent', fileId: id }).where(inArray(refund.id, rows.map(row => row.id)))
    await moveRefunds(tx, context, rows, 'sent', refundLines, 'refund-sent')
    await log(tx, context, 'send-refunds', { subject: { kind: 'office', id: 'bank' }, after: { file: reference, payments: rows.length, sum } })
    return { id }
  })
}

// What was owed back when it was approved may pay a later due meanwhile.
async function refuseOverdrawn(tx: Executor, rows: readonly RefundRow[]): Promise<void> {
  const held = await lockApplications(tx, rows.map(row => row.applicationId))
  for (const [id, own] of grouped(rows, row => row.applicationId)) {
    const owed = (await owedBack(tx, id)).find(one => one.currency === own[0]?.currency)
    const amount = own.reduce((sum, row) => sum + row.amount, 0)
    const currency = own[0]?.currency ?? ''
    if (Number(owed?.owed ?? 0) < amount) throw refusal('refund.too-much', { number: held.get(id)?.number ?? '', owed: spelledIn(currency, Number(owed?.owed ?? 0)), under: spelledIn(currency, 0), amount: spelledIn(currency, amount) })
  }
}

/** Books a movement of refunds and lets each application's fee follow. `stage` and `at` make the source: what happens again, as after a return, is another movement. */
export async function moveRefunds(tx: Executor, context: Context, rows: readonly RefundRow[], stage: string, lines: (amount: number) => LedgerLine[], act: 'refund-sent' | 'refund-returned' | null): Promise<void> {
  const held = await lockApplications(tx, rows.map(row => row.applicationId))
  const [currency] = rows.map(row => row.currency)
  if (currency === undefined) return
  await moveMoney(tx, { ...context, principal: product }, held, currency, 'refund', rows.map(row => ({ application: row.applicationId, amount: row.amount, source: `refund:${row.id}:${stage}`, lines: lines(row.amount) })), act)
}

/** The payment file as it was made. */
export async function readPaymentFile(caller: Caller, id: string): Promise<{ name: string, xml: Buffer }> {
  const { db } = await caller.authorise('bank.work')
  const [row] = await db.select().from(paymentFile).where(eq(paymentFile.id, id))
  if (!row) throw refusal('refund.unknown')
  return { name: `${row.reference}.xml`, xml: await readFile(db, row.sha256) }
}
