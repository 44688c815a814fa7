import { and, desc, eq, ne, sql } from 'drizzle-orm'
import { dateInZone } from '../../../core/calendar/zone'
import { openAfter } from '../../../core/fees/order'
import { spellAmount } from '../../../core/fees/assess'
import { reversed, slipLines } from '../../../core/fees/ledger'
import type { Slot } from '../../../core/application/slots'
import { checkBytes, checkContainer } from '../../../pictures/door'
import { isPdf } from '../../../core/documents/container'
import type { Inspector } from '../../../pictures/inspect'
import type { PaidSlipInput, PaidSlipView, SlipPage } from '../../../shared/bank'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { application, depositSlip } from '../../database/schema'
import { carryOut, type Acting, type Carried, type Effect } from '../acts/carry-out'
import type { Given } from '../acts/given'
import { currentAssessment, feeStateOf } from '../fees/assessments'
import { book } from '../fees/book'
import { bringFile, keepFile, readFile } from '../files/bytes'
import type { Caller, Context } from '../context'
import { namesOf } from '../people/names'

type SlipRow = typeof depositSlip.$inferSelect

/** A paid slip is looked at by people: of its picture nothing is measured but that it is one. */
const slot: Slot = {
  id: 'paid-slip',
  title: '',
  required: true,
  as: 'document',
  rule: {
    id: 'paid-slip',
    title: '',
    shows: '',
    required: true,
    identity: false,
    formats: ['pdf', 'jpeg', 'png'],
    bytes: {},
    pages: { max: 4 },
  },
}

/**
 * Takes a paid slip of whoever has paid at a bank: where, when and how much, with the picture of the paper. The fee counts as being
 * confirmed until somebody has looked at it, or a statement shows the money.
 *
 * @throws ProblemError `slip.day`, `slip.amount`, `slip.same` where the same paper was sent for this application before, or what is wrong
 * with the file.
 */
export async function handInSlip(
  caller: Caller,
  inspect: Inspector,
  applicationId: string,
  { bytes, ...said }: PaidSlipInput & { bytes: Uint8Array },
  given: Given = {},
): Promise<void> {
  const { db } = await caller.authorise('fees.collect', { application: applicationId })
  if (isPdf(bytes)) checkBytes(bytes)
  else checkContainer(bytes)
  const { copies } = await inspect(bytes, slot)
  const original = await bringFile(db, bytes)
  const brought = await Promise.all(copies.map(async ({ jpeg, width, height }) => ({ file: await bringFile(db, jpeg), width, height })))
  await carryOut(caller, 'hand-in-slip', applicationId, { ...given, again: { result: null } }, async (acting) => {
    const { tx, context, row, notice } = acting
    const { zone, currency } = notice.body
    // Before applications open nothing can have been meant for this examination.
    const [from, to] = [dateInZone(new Date(notice.keyDates.opens), zone), dateInZone(context.now(), zone)]
    if (said.paidOn < from || said.paidOn > to) throw refusal('slip.day', { on: said.paidOn, from, to })
    const [same] = await tx.select({ id: depositSlip.id }).from(depositSlip)
      .where(and(eq(depositSlip.applicationId, row.id), eq(depositSlip.sha256, original.sha256), ne(depositSlip.state, 'taken back')))
      .limit(1)
    if (same) throw refusal('slip.same')
    const sha256 = await keepFile(tx, original)
    const pages: SlipRow['pages'] = []
    for (const { file, width, height } of brought) pages.push({ sha256: await keepFile(tx, file), width, height })
    const id = context.newId()
    await tx.insert(depositSlip).values({
      id,
      applicationId,
      cycle: row.cycle,
      ...said,
      currency: (await currentAssessment(tx, row.id))?.assessment.currency.code ?? currency.code,
      sha256,
      pages,
      state: 'waiting',
      by: context.principal.id,
      at: context.now(),
    })
    return { result: null, after: { slip: id, ...said } }
  })
}

/** Takes back a slip that nobody has looked at. */
export function takeSlipBack(caller: Caller, applicationId: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'take-back-slip', applicationId, given, acting => settle(acting, 'waiting', 'taken back', ''))
}

/**
 * Takes a slip for good: its money pays what is due, and is in transit until a statement shows it. What is more than the due is owed back.
 */
export function confirmSlip(caller: Caller, applicationId: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'confirm-slip', applicationId, given, acting => settle(acting, 'waiting', 'confirmed', given.reason ?? ''))
}

/** Refuses a slip, or one that was taken for good and whose money never came: that is booked the other way round. */
export function refuseSlip(caller: Caller, applicationId: string, given: Given): Promise<Carried<null>> {
  return carryOut(
    caller,
    'refuse-slip',
    applicationId,
    given,
    acting => settle(acting, acting.facts.slip ?? 'waiting', 'refused', given.reason ?? ''),
  )
}

async function settle(
  { tx, context, row, notice }: Acting,
  from: 'waiting' | 'confirmed',
  to: 'taken back' | 'confirmed' | 'refused',
  reason: string,
): Promise<Effect<null>> {
  const [slip] = await tx.select().from(depositSlip).where(and(
    eq(depositSlip.applicationId, row.id),
    eq(depositSlip.state, from),
    from === 'confirmed' ? sql`${depositSlip.arrived} < ${depositSlip.amount}` : undefined,
  )).orderBy(desc(depositSlip.at)).limit(1).for('update')
  if (!slip) throw refusal('act.no-slip', { number: row.number })
  // Of a slip whose money has come in part, only the rest is given up.
  const rest = slip.amount - slip.arrived
  const isKept = to === 'refused' && slip.arrived > 0
  await tx.update(depositSlip).set({
    state: isKept ? 'confirmed' : to,
    ...isKept ? { amount: slip.arrived } : {},
    ...to === 'taken back' ? {} : { decidedBy: context.principal.id, decidedAt: context.now(), reason },
  }).where(eq(depositSlip.id, slip.id))
  const posting = { applicationId: row.id, currency: slip.currency, kind: 'receipt' as const }
  if (to === 'confirmed') await book(tx, context, { ...posting, source: `slip:${slip.id}`, lines: slipLines(slip.amount) })
  if (from === 'confirmed') await book(tx, context, { ...posting, source: `slip:${slip.id}:back`, lines: reversed(slipLines(rest)) })
  const fee = await feeStateOf(tx, context, row.id)
  return {
    result: null,
    outcome: { fee },
    before: { slip: from, fee: row.fee },
    after: { slip: to, fee, amount: spellAmount(slip.amount, notice.body.currency), reason },
    tell: { amount: slip.amount, open: openAfter(fee, row.form) },
  }
}

/** All slips of an application, the newest first. */
export async function slipsOf(caller: Caller, applicationId: string): Promise<PaidSlipView[]> {
  const context = await caller.authorise('applications.read', { application: applicationId })
  const rows = await context.db.select().from(depositSlip).where(eq(depositSlip.applicationId, applicationId)).orderBy(
    desc(depositSlip.at),
    desc(depositSlip.id),
  )
  return viewsOf(context, rows)
}

const pageSize = 20

/** Slips of a cycle that wait to be looked at, the oldest first, a page by key; each with others that may be the same paper used twice. */
export async function waitingSlips(caller: Caller, cycle: string, after?: string): Promise<SlipPage> {
  const context = await caller.authorise('bank.read', { cycle })
  const [at, id] = after?.split('~') ?? []
  const rows = await context.db.select({ slip: depositSlip, number: application.number, name: application.displayName }).from(depositSlip)
    .innerJoin(application, eq(application.id, depositSlip.applicationId)).where(and(
      eq(depositSlip.cycle, cycle),
      eq(depositSlip.state, 'waiting'),
      at && id ? sql`(${depositSlip.at}, ${depositSlip.id}) > (${at}::timestamptz, ${id}::uuid)` : undefined,
    )).orderBy(depositSlip.at, depositSlip.id).limit(pageSize + 1)
  const page = rows.slice(0, pageSize)
  const views = await viewsOf(context, page.map(row => row.slip))
  const last = page.at(-1)?.slip
  const shown = []
  for (const [i, { slip, number, name }] of page.entries()) {
    const view = views[i]
    if (view) {
      shown.push({
        ...view,
        applicationId: slip.applicationId,
        number,
        name,
        due: await dueOf(context, slip),
        alike: await alikeOf(context.db, slip),
      })
    }
  }
  return { rows: shown, next: rows.length > pageSize && last ? `${last.at.toISOString()}~${last.id}` : null }
}

async function dueOf({ db }: Context, slip: SlipRow): Promise<number> {
  const { rows: [found] } = await db.execute<
    { due: string }
  >(sql`select coalesce(sum(l.amount), 0) as due from ledger_line l join ledger_transaction t on t.id = l.transaction_id where t.application_id = ${slip.applicationId} and l.account = 'receivable'`)
  return Number(found?.due ?? 0)
}

/**
 * Other slips, of this applicant or of anybody, that may be the same paper: the same bytes, the same drawn page, or the same day and amount
 * with the bank's number or the branch.
 */
async function alikeOf(db: Executor, slip: SlipRow): Promise<SlipPage['rows'][number]['alike']> {
  const pages = slip.pages.map(page => page.sha256)
  const { rows } = await db.execute<{ id: string, number: string, state: SlipRow['state'], bytes: boolean }>(sql`
    select s.id, a.number, s.state, s.sha256 = ${slip.sha256} or exists (select 1 from jsonb_array_elements(s.pages) p where p ->> 'sha256' = any(${
    sql.param(pages)
  }::text[])) as bytes
    from deposit_slip s join application a on a.id = s.application_id
    where s.id <> ${slip.id} and s.state <> 'taken back' and (s.sha256 = ${slip.sha256} or (s.paid_on = ${slip.paidOn} and s.amount = ${slip.amount} and (
      (s.bank_reference <> '' and lower(s.bank_reference) = lower(${slip.bankReference})) or lower(s.branch) = lower(${slip.branch}) or exists (select 1 from jsonb_array_elements(s.pages) p where p ->> 'sha256' = any(${
    sql.param(pages)
  }::text[]))))) order by s.at limit 6`)
  return rows.map(({ number, state, bytes }) => ({ number, state, by: bytes ? 'picture' : 'facts' }))
}

async function viewsOf({ db, principal }: Context, rows: readonly SlipRow[]): Promise<PaidSlipView[]> {
  const name = await namesOf(db, rows.flatMap(row => row.decidedBy ?? []))
  return rows.map(({ id, amount, currency, branch, bankReference, paidOn, state, arrived, at, decidedBy, decidedAt, reason, pages }) => ({
    id,
    amount,
    currency,
    branch,
    bankReference,
    paidOn,
    state,
    arrived,
    pages: pages.length,
    at: at.toISOString(),
    decided: decidedAt
      ? { by: principal.kind === 'staff' && decidedBy ? name(decidedBy) : '', at: decidedAt.toISOString(), reason: reason ?? '' }
      : null,
  }))
}

/** A page of a slip's paper as it is shown: for accounts, and for whose it is. */
export async function pageOfSlip(caller: Caller, id: string, page: number): Promise<Buffer> {
  const { db } = await caller.authorise(caller.principal.kind === 'staff' ? 'bank.read' : 'own.read')
  const [slip] = await db.select().from(depositSlip).where(eq(depositSlip.id, id))
  const kept = slip?.pages[page - 1]
  if (!slip || !kept) throw refusal('slip.unknown')
  if (caller.principal.kind !== 'staff') await caller.authorise('applications.read', { application: slip.applicationId })
  return readFile(db, kept.sha256)
}
