import { and, asc, desc, eq, inArray, isNull, lt, or, sql } from 'drizzle-orm'
import { billed, type Billed } from '../../../core/bank/match'
import { referenceOf } from '../../../core/bank/references'
import { applicationNumber } from '../../../core/identity/check-digit'
import { billedAtMost, type BillInput, type BillPage, type BillView, type PayerView } from '../../../shared/bills'
import type { RosterFilter } from '../../../shared/applications'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { application, bill, billPart, cycle, openMatter } from '../../database/schema'
import { log, type Caller, type Context } from '../context'
import { owingInList } from '../fees/together'
import { currentNotice } from '../notice/notices'
import { namesOf } from '../people/names'
import { depositAccount } from './accounts'
import { billsWhere, duesOfApplications } from './dues'

type BillRow = typeof bill.$inferSelect
interface Wanted {
  cycle: string
  ids: readonly string[]
  payer: string
  payerCode?: string
}

/**
 * Makes a bill for several applications of one examination that have a fee to pay: a family's, or those that an institution sent. While
 * nothing of it has changed, the same one is given again.
 *
 * @throws ProblemError where one of them is not the caller's, has nothing due, or belongs to another examination; then none is made.
 */
export async function billTogether(caller: Caller, { applications, payer }: BillInput): Promise<BillView> {
  const ids = [...new Set(applications)]
  let context = await caller.authorise('account.own')
  for (const id of ids) context = await caller.authorise('fees.collect', { application: id })
  const rows = await context.db.select({ id: application.id, number: application.number, cycle: application.cycle, fee: application.fee })
    .from(application).where(inArray(application.id, ids)).orderBy(asc(application.number))
  const [first] = rows
  if (!first || rows.length < ids.length) throw refusal('application.unknown')
  if (rows.some(row => row.cycle !== first.cycle)) {
    throw refusal('payment.together-cycles', { numbers: rows.map(row => row.number).join(', ') })
  }
  const without = rows.filter(row => row.fee !== 'due')
  if (without.length > 0) throw refusal('bill.nothing-due', { numbers: without.map(row => row.number).join(', ') })
  return makeBill(context, { cycle: first.cycle, ids: rows.map(row => row.id), payer: payer ?? context.principal.name })
}

/** Makes a bill for those of a list of the roster who have a fee to pay. */
export async function billList(
  caller: Caller,
  cycleCode: string,
  { filter, payer }: { filter: RosterFilter, payer: string },
): Promise<BillView> {
  const context = await caller.authorise('fees.collect', { cycle: cycleCode })
  return makeBill(context, { cycle: cycleCode, ids: await owingInList(context, cycleCode, filter, billedAtMost), payer })
}

/**
 * Makes a bill for a payer whom the notice names, for all of theirs who have a fee to pay and stand on no bill of theirs yet, the first
 * numbers first.
 */
export async function billPayer(caller: Caller, cycleCode: string, code: string): Promise<BillView> {
  const context = await caller.authorise('fees.collect', { cycle: cycleCode })
  const { notice } = await currentNotice(context.db, cycleCode)
  const payer = notice.fees.payers.find(one => one.code === code)
  if (!payer) throw refusal('bill.payer', { payer: code })
  const rows = await context.db.select({ id: application.id }).from(openMatter).innerJoin(
    application,
    eq(application.id, openMatter.applicationId),
  ).where(and(waitingFor(cycleCode), eq(openMatter.about, code), isUnbilled)).orderBy(asc(application.number)).limit(billedAtMost)
  if (rows.length === 0) throw refusal('bill.payer-none', { payer: payer.title })
  return makeBill(context, { cycle: cycleCode, ids: rows.map(row => row.id), payer: payer.title, payerCode: code })
}

/** Fees that are assessed and wait for a payer; a form that is still filled in has no due. */
const waitingFor = (cycleCode: string) =>
  and(eq(openMatter.cycle, cycleCode), eq(openMatter.kind, 'payer-due'), isNull(openMatter.clearedAt), eq(application.fee, 'due'))
const isUnbilled =
  sql`not exists (select 1 from bill_part p join bill b on b.id = p.bill_id where p.application_id = open_matter.application_id and b.payer_code = open_matter.about and b.withdrawn_at is null)`

async function makeBill(context: Context, { cycle: code, ids, payer, payerCode }: Wanted): Promise<BillView> {
  return context.db.transaction(async (tx) => {
    const { notice } = await currentNotice(tx, code)
    const currency = notice.body.currency.code
    await depositAccount(tx, currency)
    // Whoever asks at the same time waits here, and finds the bill that was made meanwhile.
    const [counter] = await tx.select({ last: cycle.lastSerial }).from(cycle).where(eq(cycle.code, code)).for('update')
    const same = await sameBill(tx, context, { cycle: code, ids, payer })
    if (same) return viewOf(tx, same)
    const serial = (counter?.last ?? 0) + 1
    await tx.update(cycle).set({ lastSerial: serial }).where(eq(cycle.code, code))
    const dues = await duesOfApplications(tx, ids)
    const [row] = await tx.insert(bill).values({
      id: context.newId(),
      cycle: code,
      number: applicationNumber(notice.code, serial),
      payer,
      payerCode,
      currency,
      by: context.principal.id,
      at: context.now(),
    }).returning()
    if (!row) throw refusal('bill.unknown')
    await tx.insert(billPart)
      .values(ids.map((id, ordinal) => ({ billId: row.id, ordinal, applicationId: id, amount: Math.max(0, dues.get(id)?.due ?? 0) })))
    await log(tx, context, 'make-bill', {
      subject: { kind: 'office', id: 'bank' },
      cycle: code,
      after: { bill: row.number, payer, people: ids.length },
    })
    return viewOf(tx, row)
  })
}

/** The same person's bill to the same payer for just these, while it holds. */
async function sameBill(tx: Executor, context: Context, { cycle: code, ids, payer }: Wanted): Promise<BillRow | null> {
  const rows = await tx.select().from(bill).where(and(
    eq(bill.cycle, code),
    eq(bill.by, context.principal.id),
    eq(bill.payer, payer),
    isNull(bill.withdrawnAt),
    sql`exists (select 1 from bill_part p where p.bill_id = bill.id and p.application_id = ${ids[0]})`,
  )).orderBy(desc(bill.at))
  for (const row of rows) {
    const parts = await tx.select({ id: billPart.applicationId }).from(billPart).where(eq(billPart.billId, row.id))
      .orderBy(billPart.ordinal)
    if (parts.length === ids.length && parts.every((part, place) => part.id === ids[place])) return row
  }
  return null
}

async function viewOf(tx: Executor, row: BillRow): Promise<BillView> {
  const [view] = await viewsOf(tx, [row])
  if (!view) throw refusal('bill.unknown')
  return view
}

async function viewsOf(tx: Executor, rows: readonly BillRow[]): Promise<BillView[]> {
  const now = await billsWhere(tx, sql`b.id = any(${sql.param(rows.map(row => row.id))}::uuid[])`)
  const asked = await tx.select({ id: billPart.billId, people: sql<string>`count(*)`, sum: sql<string>`sum(${billPart.amount})` })
    .from(billPart).where(inArray(billPart.billId, rows.map(row => row.id))).groupBy(billPart.billId)
  const name = await namesOf(tx, rows.flatMap(row => [row.by, row.withdrawnBy ?? row.by]))
  return rows.map((row) => {
    const parts = asked.find(one => one.id === row.id)
    const isWithdrawn = row.withdrawnAt !== null
    return {
      id: row.id,
      number: row.number,
      reference: referenceOf(row.number),
      payer: row.payer,
      people: Number(parts?.people ?? 0),
      asked: Number(parts?.sum ?? 0),
      due: isWithdrawn ? 0 : now.get(row.number)?.due ?? 0,
      currency: row.currency,
      by: name(row.by),
      at: row.at.toISOString(),
      withdrawn: row.withdrawnAt && row.withdrawnBy ? { by: name(row.withdrawnBy), at: row.withdrawnAt.toISOString() } : null,
    }
  })
}

/** The bills of an examination, the newest first, and the payers whom its notice names with what waits for them and stands on no bill. */
export async function listBills(caller: Caller, cycleCode: string, after?: string): Promise<BillPage> {
  const { db } = await caller.authorise('bank.read', { cycle: cycleCode })
  const [at, id] = after?.split(' ') ?? []
  if (at !== undefined && (!id || Number.isNaN(Date.parse(at)) || !/^[0-9a-f-]{36}$/.test(id))) {
    throw refusal('input.list-place', { value: after ?? '' })
  }
  const rows = await db.select().from(bill).where(and(
    eq(bill.cycle, cycleCode),
    at && id ? or(lt(bill.at, new Date(at)), and(eq(bill.at, new Date(at)), lt(bill.id, id))) : undefined,
  )).orderBy(desc(bill.at), desc(bill.id)).limit(pageSize + 1)
  const page = rows.slice(0, pageSize)
  const last = page.at(-1)
  return {
    bills: await viewsOf(db, page),
    next: rows.length > pageSize && last ? `${last.at.toISOString()} ${last.id}` : null,
    payers: after ? [] : await payersOf(db, cycleCode),
  }
}

const pageSize = 50

async function payersOf(db: Executor, cycleCode: string): Promise<PayerView[]> {
  const { notice } = await currentNotice(db, cycleCode)
  if (notice.fees.payers.length === 0) return []
  const rows = await db.select({
    code: openMatter.about,
    people: sql<string>`count(*)`,
    unbilled: sql<string>`count(*) filter (where ${isUnbilled})`,
  }).from(openMatter).innerJoin(application, eq(application.id, openMatter.applicationId)).where(waitingFor(cycleCode))
    .groupBy(openMatter.about)
  return notice.fees.payers.map(({ code, title }) => {
    const row = rows.find(one => one.code === code)
    return { code, title, people: Number(row?.people ?? 0), unbilled: Number(row?.unbilled ?? 0) }
  })
}

/** A bill for whoever made it, and for the office. */
export async function billOf(
  caller: Caller,
  id: string,
  permission: 'bank.read' | 'fees.collect' = 'bank.read',
): Promise<{ context: Context, row: BillRow, now: Billed }> {
  const context = await caller.authorise(caller.principal.kind === 'staff' ? permission : 'own.read')
  const [row] = await context.db.select().from(bill).where(eq(bill.id, id))
  if (!row || (caller.principal.kind !== 'staff' && row.by !== context.principal.id)) throw refusal('bill.unknown')
  const now = (await billsWhere(context.db, sql`b.id = ${id}`)).get(row.number)
    ?? billed({ number: row.number, name: row.payer, currency: row.currency, isOver: row.withdrawnAt !== null }, [])
  return { context, row, now }
}

/**
 * Withdraws a bill: whoever is on it pays by themselves, or by another. Money that still comes under its number is for a person to look at.
 */
export async function withdrawBill(caller: Caller, id: string): Promise<BillView> {
  const { context } = await billOf(caller, id, 'fees.collect')
  return context.db.transaction(async (tx) => {
    const [row] = await tx.update(bill).set({ withdrawnBy: context.principal.id, withdrawnAt: context.now() })
      .where(and(eq(bill.id, id), isNull(bill.withdrawnAt))).returning()
    if (!row) throw refusal('bill.withdrawn')
    await log(tx, context, 'withdraw-bill', {
      subject: { kind: 'office', id: 'bank' },
      cycle: row.cycle,
      before: { bill: row.number, payer: row.payer },
    })
    return viewOf(tx, row)
  })
}
