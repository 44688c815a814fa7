import { and, desc, eq, isNull } from 'drizzle-orm'
import { inFours } from '../../../core/bank/check-digits'
import { referenceOf } from '../../../core/bank/references'
import { spellInstant } from '../../../core/calendar/zone'
import { lastToPay } from '../../../core/fees/order'
import { formatMessage, type MessageParameters } from '../../../core/words/message'
import type { DepositView } from '../../../shared/bank'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { bill, billPart } from '../../database/schema'
import { documentOf, mm } from '../../paper/document'
import { drawQrCode } from '../../paper/qr'
import { drawLine, drawParagraph, type TextStyle } from '../../paper/typeset'
import { readApplication } from '../applications/store'
import type { Caller, Context } from '../context'
import { moneyOf } from '../fees/received'
import { currentNotice } from '../notice/notices'
import { accountForDeposits, spelledIn } from './accounts'

interface Deposit extends DepositView {
  number: string
  name: string
  title: string
  office: string
}

/**
 * Where and how the fee of an application can be paid in at a bank: account and reference are there as soon as it is assessed. Null where
 * the office takes no deposits, or nothing is due.
 */
export async function readDeposit(caller: Caller, applicationId: string): Promise<DepositView | null> {
  const context = await caller.authorise('applications.read', { application: applicationId })
  const found = await depositOf(context.db, context, applicationId)
  if (typeof found === 'string') return null
  const { amount, currency, account, reference, lastDay, bill: onBill } = found
  return { amount, currency, account, reference, lastDay, bill: onBill }
}

/** The newest bill that holds and that an application stands on. */
async function billWith(db: Executor, applicationId: string): Promise<DepositView['bill']> {
  const [found] = await db.select({ number: bill.number, payer: bill.payer }).from(billPart).innerJoin(bill, eq(bill.id, billPart.billId))
    .where(and(eq(billPart.applicationId, applicationId), isNull(bill.withdrawnAt))).orderBy(desc(bill.at)).limit(1)
  return found ?? null
}

async function depositOf(
  db: Executor,
  context: Pick<Context, 'now'>,
  applicationId: string,
): Promise<Deposit | 'nothing due' | 'no account'> {
  const row = await readApplication(db, applicationId)
  const { notice } = await currentNotice(db, row.cycle)
  const money = (await moneyOf(db, context, [row.id])).get(row.id)
  const amount = (money?.assessed ?? 0) - (money?.received ?? 0)
  if (amount <= 0 || !money?.currency) return 'nothing due'
  const account = await accountForDeposits(db, money.currency)
  if (!account) return 'no account'
  const { holder, bank, number, bic } = account
  const last = lastToPay(notice, row.form)
  const until = row.openUntil && row.openUntil > new Date(last) ? row.openUntil : last
  return {
    amount,
    currency: money.currency,
    account: { holder, bank, number, bic },
    reference: referenceOf(row.number),
    lastDay: spellInstant(until, notice.body.zone),
    bill: await billWith(db, row.id),
    number: row.number,
    name: row.displayName,
    title: notice.title,
    office: notice.body.name,
  }
}

const [ink, soft] = ['#1d2a33', '#56646d']
const page = { left: mm(22), width: mm(166) }

/** The deposit slip, A4: what a person at a bank's counter copies, and what a machine reads. */
export async function depositSlip(caller: Caller, applicationId: string): Promise<{ name: string, pdf: Buffer }> {
  const context = await caller.authorise('applications.read', { application: applicationId })
  const found = await depositOf(context.db, context, applicationId)
  const { number } = await readApplication(context.db, applicationId)
  if (found === 'nothing due') throw refusal('slip.nothing-due', { number })
  if (found === 'no account') {
    throw refusal('bank.no-slips', { currency: (await moneyOf(context.db, context, [applicationId])).get(applicationId)?.currency ?? '' })
  }
  const { slipTexts } = context.language.papers
  const say = (text: keyof typeof slipTexts, parameters: MessageParameters = {}) =>
    formatMessage(context.language.locale, slipTexts[text], parameters)
  const pdf = await documentOf(
    { title: say('title', { number }), author: found.office, at: context.now() },
    doc => drawSlip(doc, found, say),
  )
  return { name: `${number}-deposit.pdf`, pdf }
}

type Say = (
  text:
    | 'title'
    | 'heading'
    | 'how'
    | 'amount'
    | 'lastDay'
    | 'holder'
    | 'bank'
    | 'account'
    | 'bic'
    | 'reference'
    | 'applicant'
    | 'copyWhole'
    | 'after'
    | 'machine',
  parameters?: MessageParameters,
) => string

function drawSlip(doc: PDFKit.PDFDocument, deposit: Deposit, say: Say): void {
  const style = (size: number, colour = ink, face: TextStyle['face'] = 'sans'): TextStyle => ({ face, size, colour })
  drawLine(doc, deposit.office, page.left, mm(20), style(12, soft, 'serif'), page.width)
  drawLine(doc, say('heading'), page.left, mm(28), style(20, ink, 'serif'), page.width)
  let y = drawParagraph(doc, say('how', { title: deposit.title }), page.left, mm(41), page.width, style(10.5)) + mm(6)
  const rows: [string, string, number][] = [
    [say('applicant'), `${deposit.number} · ${deposit.name}`, 12],
    [say('amount'), spelledIn(deposit.currency, deposit.amount), 16],
    [say('lastDay'), deposit.lastDay, 12],
    [say('holder'), deposit.account.holder, 12],
    [say('bank'), deposit.account.bank, 12],
    [say('account'), inFours(deposit.account.number), 14],
    ...deposit.account.bic === '' ? [] : [[say('bic'), deposit.account.bic, 12] as [string, string, number]],
    [say('reference'), inFours(deposit.reference), 16],
  ]
  for (const [label, value, size] of rows) {
    drawLine(doc, label, page.left, y, style(9, soft), page.width)
    drawLine(doc, value, page.left, y + mm(4.2), style(size, ink, 'strong'), mm(118))
    y += mm(15)
  }
  drawQrCode(
    doc,
    [deposit.reference, deposit.currency + String(deposit.amount), deposit.account.number].join('\n'),
    page.left + mm(126),
    mm(66),
    mm(40),
  )
  drawParagraph(doc, say('machine'), page.left + mm(126), mm(108), mm(40), style(8.5, soft))
  y = drawParagraph(doc, say('copyWhole'), page.left, y + mm(2), page.width, style(10.5)) + mm(2)
  drawParagraph(doc, say('after'), page.left, y, page.width, style(10.5))
}
