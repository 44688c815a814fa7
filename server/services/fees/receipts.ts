import { randomInt } from 'node:crypto'
import { and, asc, eq, inArray, isNull, max } from 'drizzle-orm'
import { exponentOf } from '../../../core/bank/statement'
import { dateInZone, spellInstant } from '../../../core/calendar/zone'
import { spellAmount, type FeeItem } from '../../../core/fees/assess'
import { readReceiptNumber, receiptNumber, receiptsDue } from '../../../core/fees/receipt'
import { formatMessage, type MessageParameters } from '../../../core/words/message'
import type { ReceiptCheck, ReceiptView } from '../../../shared/fees'
import { grouped } from '../../../shared/grouped'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { locks } from '../../database/locks'
import { application, receipt, receiptWanted } from '../../database/schema'
import { documentOf, mm } from '../../paper/document'
import { drawQrCode } from '../../paper/qr'
import { drawLine, drawParagraph, type TextStyle } from '../../paper/typeset'
import type { Caller, Context } from '../context'
import { currentNotice } from '../notice/notices'
import { countTry } from '../people/pace'
import { currentAssessment } from './assessments'
import { lockApplications } from './receive'
import { moneyOf } from './received'

type ReceiptRow = typeof receipt.$inferSelect
const atOnce = 500
const letters = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789'
/** Ten signs of 32: whoever guesses is slowed down besides. */
const newCode = () => Array.from({ length: 10 }, () => letters[randomInt(letters.length)]).join('')

/**
 * Issues what receipts are wanted, in the order in which they are asked for, and lets those hold no longer whose money was taken back.
 * Numbers go up one by one: one process at a time gives them, in the transaction that writes the receipts, so that none is ever skipped.
 */
export async function issueReceipts(caller: Caller): Promise<number> {
  const context = await caller.authorise('clock.act')
  let issued = 0
  for (;;) {
    const page = await context.db.transaction(async (tx) => {
      await locks.receiptNumber(tx)
      const wanted = await tx.select().from(receiptWanted).limit(atOnce).for('update', { skipLocked: true })
      if (wanted.length === 0) return { looked: 0, issued: 0 }
      const ids = wanted.map(row => row.applicationId)
      const written = await settleReceipts(tx, context, ids)
      await tx.delete(receiptWanted).where(inArray(receiptWanted.applicationId, ids))
      return { looked: ids.length, issued: written }
    })
    issued += page.issued
    if (page.looked < atOnce) return issued
  }
}

async function settleReceipts(tx: Executor, context: Context, ids: readonly string[]): Promise<number> {
  const rows = await lockApplications(tx, ids)
  const money = await moneyOf(tx, context, ids)
  const inForce = grouped(
    await tx.select().from(receipt).where(and(inArray(receipt.applicationId, [...ids]), isNull(receipt.voidAt))).orderBy(asc(receipt.at)),
    one => one.applicationId,
  )
  const fresh: Omit<typeof receipt.$inferInsert, 'serial' | 'year'>[] = []
  const gone: string[] = []
  const years = new Map<string, number>()
  for (const row of rows.values()) {
    const { assessed, received = 0, currency } = money.get(row.id) ?? {}
    const own = inForce.get(row.id) ?? []
    const change = receiptsDue(
      own.map(one => one.amount),
      Math.min(received, assessed ?? 0),
      row.fee === 'settled' || row.fee === 'refund due',
    )
    gone.push(...own.slice(own.length - change.void).map(one => one.id))
    if (change.issue <= 0 || !currency) continue
    const items: FeeItem[] = (await currentAssessment(tx, row.id))?.assessment.items ?? []
    years.set(
      row.cycle,
      years.get(row.cycle) ?? Number(dateInZone(context.now(), (await currentNotice(tx, row.cycle)).notice.body.zone).slice(0, 4)),
    )
    fresh.push({ id: context.newId(), applicationId: row.id, amount: change.issue, currency, items, code: newCode(), at: context.now() })
  }
  if (gone.length > 0) await tx.update(receipt).set({ voidAt: context.now() }).where(inArray(receipt.id, gone))
  for (
    const [year, members] of grouped(fresh, one => years.get(rows.get(one.applicationId)?.cycle ?? '') ?? context.now().getUTCFullYear())
  ) {
    const [last] = await tx.select({ serial: max(receipt.serial) }).from(receipt).where(eq(receipt.year, year))
    await tx.insert(receipt).values(members.map((one, i) => ({ ...one, year, serial: (last?.serial ?? 0) + i + 1 })))
  }
  return fresh.length
}

const viewOf = ({ id, year, serial, amount, currency, at, voidAt }: ReceiptRow): ReceiptView => ({
  id,
  number: receiptNumber(year, serial),
  amount,
  currency,
  at: at.toISOString(),
  voidAt: voidAt?.toISOString() ?? null,
})

/** The receipts of an application, the oldest first. */
export async function listReceipts(caller: Caller, applicationId: string): Promise<ReceiptView[]> {
  const { db } = await caller.authorise('applications.read', { application: applicationId })
  return (await db.select().from(receipt).where(eq(receipt.applicationId, applicationId)).orderBy(asc(receipt.at))).map(viewOf)
}

/**
 * Whether a receipt is genuine, for whoever has its number and code; nothing of whose it is beyond what the paper says. Guessing is slowed
 * down.
 */
export async function checkReceipt(caller: Caller, given: { number: string, code: string }, network: string): Promise<ReceiptCheck> {
  const context = await caller.authorise('card-keys.read')
  const read = readReceiptNumber(given.number)
  if (!read) throw refusal('receipt.number', { number: given.number.slice(0, 30) })
  await countTry(context, [{ key: `receipts:${network}`, free: 20, forget: 10, most: 60 }])
  const [row] = await context.db.select({ receipt, number: application.number }).from(receipt).innerJoin(
    application,
    eq(application.id, receipt.applicationId),
  ).where(and(eq(receipt.year, read.year), eq(receipt.serial, read.serial)))
  if (!row || row.receipt.code !== given.code.replace(/[\s-]/g, '').toUpperCase()) throw refusal('receipt.unknown')
  return { ...viewOf(row.receipt), application: row.number }
}

const [ink, soft, line] = ['#1d2a33', '#56646d', '#b9b1a0']
const page = { left: mm(22), width: mm(166) }

/** The receipt on paper, A4: equal receipt, equal bytes. */
export async function receiptPdf(caller: Caller, applicationId: string, id: string): Promise<{ name: string, pdf: Buffer }> {
  const context = await caller.authorise('applications.read', { application: applicationId })
  const [row] = await context.db.select().from(receipt).where(and(eq(receipt.id, id), eq(receipt.applicationId, applicationId)))
  if (!row) throw refusal('receipt.unknown')
  const [of] = await context.db.select({ number: application.number, name: application.displayName, cycle: application.cycle })
    .from(application).where(eq(application.id, applicationId))
  const { notice } = await currentNotice(context.db, of?.cycle ?? '')
  const { receiptTexts } = context.language.papers
  const say = (text: keyof typeof receiptTexts, parameters: MessageParameters = {}) =>
    formatMessage(context.language.locale, receiptTexts[text], parameters)
  const number = receiptNumber(row.year, row.serial)
  const currency = { code: row.currency, exponent: exponentOf(row.currency) }
  const pdf = await documentOf({ title: say('title', { number }), author: notice.body.name, at: row.at }, (doc) => {
    const style = (size: number, colour = ink, face: TextStyle['face'] = 'sans'): TextStyle => ({ face, size, colour })
    drawLine(doc, notice.body.name, page.left, mm(20), style(12, soft, 'serif'), page.width)
    drawLine(doc, say('heading', { number }), page.left, mm(28), style(20, ink, 'serif'), page.width)
    let y = drawParagraph(
      doc,
      say('who', { name: of?.name ?? '', number: of?.number ?? '', title: notice.title }),
      page.left,
      mm(42),
      page.width,
      style(11),
    ) + mm(6)
    for (const item of row.items) {
      const { title } = context.language.fees.feeWords(item)
      drawLine(doc, title, page.left, y, style(11), mm(110))
      drawLine(doc, spellAmount(item.amount, currency), page.left + mm(115), y, style(11), mm(50))
      y += mm(7)
    }
    doc.moveTo(page.left, y).lineTo(page.left + page.width, y).lineWidth(0.6).stroke(line)
    drawLine(doc, say('received'), page.left, y + mm(2), style(12, ink, 'strong'), mm(110))
    drawLine(doc, spellAmount(row.amount, currency), page.left + mm(115), y + mm(2), style(14, ink, 'strong'), mm(50))
    y += mm(14)
    y = drawParagraph(doc, say('issued', { at: spellInstant(row.at, notice.body.zone) }), page.left, y, page.width, style(11)) + mm(2)
    if (row.voidAt) {
      y = drawParagraph(
        doc,
        say('void', { at: spellInstant(row.voidAt, notice.body.zone) }),
        page.left,
        y,
        page.width,
        style(12, '#9f2d2d', 'strong'),
      ) + mm(2)
    }
    drawQrCode(doc, `${number}\n${row.code}`, page.left, y + mm(4), mm(30))
    drawParagraph(
      doc,
      say('check', { number, code: row.code.replace(/(.{5})(?=.)/, '$1 ') }),
      page.left + mm(36),
      y + mm(9),
      mm(120),
      style(10, soft),
    )
  })
  return { name: `receipt-${number}.pdf`, pdf }
}
