import { desc, eq } from 'drizzle-orm'
import type { OrderText } from '../../../core/words/en/order'
import type { Notice } from '../../../core/notice/schema'
import { refusal } from '../../../shared/refusal'
import { scrutinyDecision } from '../../database/schema'
import { documentOf, mm } from '../../paper/document'
import { drawLine, drawParagraph } from '../../paper/typeset'
import { countedAnswers, readApplication } from '../applications/store'
import type { Caller } from '../context'
import { nameOf } from '../people/names'
import { rulingsOf } from '../eligibility/claims'
import { currentNotice } from '../notice/notices'

/** The reasoned order of a refused application as PDF, A4. */
export async function orderPdf(caller: Caller, applicationId: string): Promise<{ name: string, pdf: Buffer }> {
  const { db, language } = await caller.authorise('applications.read', { application: applicationId })
  const row = await readApplication(db, applicationId)
  const [decision] = await db.select().from(scrutinyDecision).where(eq(scrutinyDecision.applicationId, applicationId))
    .orderBy(desc(scrutinyDecision.at)).limit(1)
  if (row.scrutiny !== 'refused' || !decision) throw refusal('order.none', { number: row.number })
  const { notice } = await currentNotice(db, row.cycle)
  const rulings = await rulingsOf(db, notice, applicationId)
  const text = language.order.refusalOrder(notice, {
    number: row.number,
    name: row.displayName,
    answers: countedAnswers(notice, row),
    decision: { reasons: decision.reasons, by: await nameOf(db, decision.by), at: decision.at.toISOString() },
    falseClaims: rulings.filter((r, i) => r.ruling === 'false' && rulings.findIndex(other => other.claim === r.claim) === i),
  })
  return { name: `${row.number}-order.pdf`, pdf: await printOrder(notice, text, decision.at) }
}

const [left, width, lowest] = [mm(24), mm(162), mm(272)]

function printOrder(notice: Notice, text: OrderText, at: Date): Promise<Buffer> {
  return documentOf({ title: text.title, author: notice.body.name, at }, doc => drawOrder(doc, notice, text))
}

function drawOrder(doc: PDFKit.PDFDocument, notice: Notice, text: OrderText): void {
  drawLine(doc, notice.body.name, left, mm(18), { face: 'serif', size: 14 }, width)
  drawLine(doc, notice.body.address, left, mm(25), { face: 'sans', size: 8.5, colour: '#56646d' }, width)
  doc.moveTo(left, mm(31)).lineTo(left + width, mm(31)).lineWidth(1).stroke('#1d2a33')
  drawLine(doc, text.title, left, mm(38), { face: 'serif', size: 19 })
  let y = drawParagraph(doc, text.opening, left, mm(50), width, { face: 'sans', size: 10.5 }, 1.4) + 8
  const roomFor = (height: number) => {
    if (y + height < lowest) return
    doc.addPage()
    y = mm(22)
  }
  for (const section of text.sections) {
    roomFor(50)
    drawLine(doc, section.heading, left, y, { face: 'serif', size: 12.5 })
    y += 20
    for (const paragraph of section.paragraphs) {
      roomFor(30)
      y = drawParagraph(doc, paragraph, left, y, width, { face: 'sans', size: 10.5 }, 1.4) + 4
    }
    y += 8
  }
}
