import { desc, eq } from 'drizzle-orm'
import type { CardContent, CardRow } from '../../../core/admit-card/content'
import { languageOf } from '../../../core/words/language'
import { formatMessage } from '../../../core/words/message'
import { refusal } from '../../../shared/problem'
import { admitCard } from '../../database/schema'
import { readApplication } from '../applications/store'
import type { Caller } from '../context'
import { readFile } from '../files/bytes'
import { documentOf, mm } from '../../paper/document'
import { drawQrCode } from '../../paper/qr'
import { drawLine, drawParagraph, type TextStyle } from '../../paper/typeset'

const page = { left: mm(18), right: mm(192), width: mm(174) }
const ink = '#1d2a33'
const soft = '#56646d'
const hairline = '#b9b1a0'

export interface PrintableCard { content: CardContent, code: string, photograph: Buffer, signature: Buffer, issuedAt: Date }

/** The newest card of an application as PDF, A4: what was frozen when it was issued, whatever has changed since. Equal card, equal bytes. */
export async function cardPdf(caller: Caller, applicationId: string): Promise<{ name: string, pdf: Buffer }> {
  const { db } = await caller.authorise('cards.read', { application: applicationId })
  const row = await readApplication(db, applicationId)
  const [card] = await db.select().from(admitCard).where(eq(admitCard.applicationId, applicationId)).orderBy(desc(admitCard.version)).limit(1)
  if (!card || card.voidAt) throw refusal('card.none', { number: row.number })
  const [photograph, signature] = [await readFile(db, card.photographSha256), await readFile(db, card.signatureSha256)]
  return { name: `${row.number}.pdf`, pdf: await printCard({ content: card.content, code: card.code, photograph, signature, issuedAt: card.at }) }
}

/** Draws a card. */
export function printCard(card: PrintableCard): Promise<Buffer> {
  const { content } = card
  return documentOf({ title: `${content.title} ${content.application}`, author: content.body, at: card.issuedAt }, (doc) => {
    drawHead(doc, content)
    drawImages(doc, card)
    const sitting = Math.max(drawPerson(doc, content), mm(119))
    const end = drawSitting(doc, content, sitting)
    drawCode(doc, card, sitting + mm(5))
    drawFoot(doc, content, Math.max(mm(186), end + mm(2), sitting + codeWidth + mm(12)))
  })
}

/** Words of the language that the card was made in. */
const wordsOf = ({ language }: CardContent) => languageOf(language).papers

function drawHead(doc: PDFKit.PDFDocument, content: CardContent): void {
  drawLine(doc, content.body, page.left, mm(15), { face: 'serif', size: 15, colour: ink }, page.width)
  drawLine(doc, content.address, page.left, mm(22), { face: 'sans', size: 8.5, colour: soft }, page.width)
  rule(doc, mm(28), 1.2)
  drawLine(doc, content.title, page.left, mm(31), { face: 'serif', size: 19, colour: ink })
  drawLine(doc, content.examination, page.left, mm(40), { face: 'sans', size: 10.5, colour: ink }, page.width)
}

function drawImages(doc: PDFKit.PDFDocument, card: PrintableCard): void {
  const [width, photo, strip] = [mm(35), mm(45), mm(16)]
  doc.image(card.photograph, page.left, mm(51), { fit: [width, photo], align: 'center', valign: 'center' })
  doc.rect(page.left, mm(51), width, photo).lineWidth(0.5).stroke(hairline)
  doc.image(card.signature, page.left, mm(98), { fit: [width, strip], align: 'center', valign: 'center' })
  doc.rect(page.left, mm(98), width, strip).lineWidth(0.5).stroke(hairline)
}

function drawPerson(doc: PDFKit.PDFDocument, content: CardContent): number {
  const { cardTexts } = wordsOf(content)
  const x = page.left + mm(42)
  drawLine(doc, content.name, x, mm(50), { face: 'strong', size: 17 }, page.right - x)
  pair(doc, cardTexts.roll, content.roll, x, mm(60), 15)
  pair(doc, cardTexts.number, content.application, x + mm(52), mm(60), 15)
  return drawRows(doc, content.person, x, mm(73), page.right - x)
}

function drawSitting(doc: PDFKit.PDFDocument, content: CardContent, y: number): number {
  rule(doc, y, 0.5)
  return drawRows(doc, content.sitting, page.left, y + mm(4), page.width - codeWidth - mm(10))
}

function pair(doc: PDFKit.PDFDocument, label: string, text: string, x: number, y: number, size: number): void {
  drawLine(doc, label, x, y, { face: 'sans', size: 8, colour: soft })
  drawLine(doc, text, x, y + 10, { face: 'strong', size })
}

function drawRows(doc: PDFKit.PDFDocument, rows: CardRow[], x: number, y: number, width: number): number {
  const labels = mm(36)
  const text: TextStyle = { face: 'strong', size: 10.5 }
  let at = y
  for (const row of rows) {
    const label = drawParagraph(doc, row.label, x, at + 1.5, labels - mm(1), { face: 'sans', size: 9, colour: soft }, 1.15)
    at = Math.max(label, drawParagraph(doc, row.text, x + labels, at, width - labels, text, 1.25)) + 3
  }
  return at
}

/** What many papers leave less room for than this moves to a second page. */
const footHeight = mm(70)

/** Width of the code with its quiet zone: from 46 mm on all were read at 150 dots an inch with a blur of one pixel, and at 100 dots as a JPEG; of 40 mm half. */
const codeWidth = mm(48)

function drawCode(doc: PDFKit.PDFDocument, { content, code }: PrintableCard, y: number): void {
  drawQrCode(doc, [{ data: code, mode: 'alphanumeric' }], page.right - codeWidth, y, codeWidth)
  drawLine(doc, wordsOf(content).cardTexts.signed, page.right - codeWidth, y + codeWidth + mm(0.5), { face: 'sans', size: 7, colour: soft }, codeWidth)
}

function drawFoot(doc: PDFKit.PDFDocument, content: CardContent, from: number): void {
  const { cardTexts } = wordsOf(content)
  const isOver = from > mm(284) - footHeight
  if (isOver) doc.addPage()
  let y = isOver ? mm(18) : from
  rule(doc, y, 0.5)
  y += mm(4)
  drawLine(doc, cardTexts.instructions, page.left, y, { face: 'serif', size: 11.5 })
  y += mm(7)
  content.instructions.forEach((text, i) => {
    drawLine(doc, `${i + 1}.`, page.left, y, { face: 'sans', size: 9.5 })
    y = drawParagraph(doc, text, page.left + mm(6), y, page.width - mm(6), { face: 'sans', size: 9.5 }) + 2.5
  })
  drawLine(doc, formatMessage('en', cardTexts.version, { version: content.version }), page.left, mm(284), { face: 'sans', size: 8, colour: soft })
}

function rule(doc: PDFKit.PDFDocument, y: number, weight: number): void {
  doc.moveTo(page.left, y).lineTo(page.right, y).lineWidth(weight).stroke(weight > 1 ? ink : hairline)
}
