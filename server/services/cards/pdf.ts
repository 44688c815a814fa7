import { desc, eq } from 'drizzle-orm'
import type { CardContent, CardRow } from '../../../core/admit-card/content'
import { languageOf } from '../../../core/words/language'
import { formatMessage } from '../../../core/words/message'
import { refusal } from '../../../shared/refusal'
import { admitCard } from '../../database/schema'
import { readApplication } from '../applications/store'
import type { Caller } from '../context'
import { readFile } from '../files/bytes'
import { mm, taggedDocumentOf } from '../../paper/document'
import { drawQrCode } from '../../paper/qr'
import type { Marks } from '../../paper/tags'
import { drawLine, drawParagraph, type TextStyle } from '../../paper/typeset'

const page = { left: mm(18), right: mm(192), width: mm(174) }
const ink = '#1d2a33'
const soft = '#56646d'
const hairline = '#b9b1a0'

export interface PrintableCard {
  content: CardContent
  code: string
  photograph: Buffer
  signature: Buffer
  issuedAt: Date
}

/**
 * The newest card of an application as PDF, A4: what was frozen when it was issued, whatever has changed since. Equal card, equal bytes.
 */
export async function cardPdf(caller: Caller, applicationId: string): Promise<{ name: string, pdf: Buffer }> {
  const { db } = await caller.authorise('cards.read', { application: applicationId })
  const row = await readApplication(db, applicationId)
  const [card] = await db.select().from(admitCard).where(eq(admitCard.applicationId, applicationId)).orderBy(desc(admitCard.version))
    .limit(1)
  if (!card || card.voidAt) throw refusal('card.none', { number: row.number })
  const [photograph, signature] = [await readFile(db, card.photographSha256), await readFile(db, card.signatureSha256)]
  return {
    name: `${row.number}.pdf`,
    pdf: await printCard({ content: card.content, code: card.code, photograph, signature, issuedAt: card.at }),
  }
}

/** Draws a card as a file of its own. */
export function printCard(card: PrintableCard): Promise<Buffer> {
  const { content } = card
  return taggedDocumentOf({
    title: `${content.title} ${content.application}`,
    author: content.body,
    at: card.issuedAt,
    lang: content.language ?? 'en',
  }, (doc, tags) => {
    drawCard({ doc, tags }, card)
  })
}

interface Paper {
  doc: PDFKit.PDFDocument
  tags: Marks
}

/** Draws a card on a page, and on a second one where its papers are many. */
export function drawCard(paper: Paper, card: PrintableCard): void {
  const { content } = card
  drawHead(paper, content)
  drawImages(paper, card)
  const sitting = Math.max(drawPerson(paper, content), mm(119))
  const end = drawSitting(paper, content, sitting)
  drawCode(paper, card, sitting + mm(5))
  drawFoot(paper, content, Math.max(mm(186), end + mm(2), sitting + codeWidth + mm(12)))
}

/** Words of the language that the card was made in. */
const wordsOf = ({ language }: CardContent) => languageOf(language).papers

function drawHead({ doc, tags }: Paper, content: CardContent): void {
  tags.part('P', () => drawLine(doc, content.body, page.left, mm(15), { face: 'serif', size: 15, colour: ink }, page.width))
  tags.part('P', () => drawLine(doc, content.address, page.left, mm(22), { face: 'sans', size: 8.5, colour: soft }, page.width))
  tags.ornament(() => rule(doc, mm(28), 1.2))
  tags.part('H1', () => drawLine(doc, content.title, page.left, mm(31), { face: 'serif', size: 19, colour: ink }))
  tags.part('P', () => drawLine(doc, content.examination, page.left, mm(40), { face: 'sans', size: 10.5, colour: ink }, page.width))
}

function drawImages({ doc, tags }: Paper, { content, photograph, signature }: PrintableCard): void {
  const { cardTexts } = wordsOf(content)
  const picture = (bytes: Buffer, top: number, height: number, says: string) => {
    const width = mm(35)
    tags.part('Figure', () => doc.image(bytes, page.left, top, { fit: [width, height], align: 'center', valign: 'center' }), {
      alt: formatMessage('en', says, { name: content.name }),
      bbox: [page.left, top, page.left + width, top + height],
    })
    tags.ornament(() => doc.rect(page.left, top, width, height).lineWidth(0.5).stroke(hairline))
  }
  picture(photograph, mm(51), mm(45), cardTexts.photograph)
  picture(signature, mm(98), mm(16), cardTexts.signature)
}

function drawPerson(paper: Paper, content: CardContent): number {
  const { doc, tags } = paper
  const { cardTexts } = wordsOf(content)
  const x = page.left + mm(42)
  tags.part('H2', () => drawLine(doc, content.name, x, mm(50), { face: 'strong', size: 17 }, page.right - x))
  return tags.group('Table', () => {
    pair(paper, cardTexts.roll, content.roll, x, mm(60), 15)
    pair(paper, cardTexts.number, content.application, x + mm(52), mm(60), 15)
    return drawRows(paper, content.person, x, mm(73), page.right - x)
  })
}

function drawSitting(paper: Paper, content: CardContent, y: number): number {
  paper.tags.ornament(() => rule(paper.doc, y, 0.5))
  return paper.tags.group('Table', () => drawRows(paper, content.sitting, page.left, y + mm(4), page.width - codeWidth - mm(10)))
}

/** A label and what it is the label of: a row of a table, wherever they are drawn. */
function labelled<T>({ tags }: Paper, label: () => void, text: () => T): T {
  return tags.group('TR', () => {
    tags.part('TH', label, { scope: 'Row' })
    return tags.part('TD', text)
  })
}

function pair(paper: Paper, label: string, text: string, x: number, y: number, size: number): void {
  labelled(
    paper,
    () => drawLine(paper.doc, label, x, y, { face: 'sans', size: 8, colour: soft }),
    () => drawLine(paper.doc, text, x, y + 10, { face: 'strong', size }),
  )
}

function drawRows(paper: Paper, rows: CardRow[], x: number, y: number, width: number): number {
  const labels = mm(36)
  const text: TextStyle = { face: 'strong', size: 10.5 }
  let at = y
  for (const row of rows) {
    let below = at
    const end = labelled(paper, () => {
      below = drawParagraph(paper.doc, row.label, x, at + 1.5, labels - mm(1), { face: 'sans', size: 9, colour: soft }, 1.15)
    }, () => drawParagraph(paper.doc, row.text, x + labels, at, width - labels, text, 1.25))
    at = Math.max(below, end) + 3
  }
  return at
}

/** What many papers leave less room for than this moves to a second page. */
const footHeight = mm(70)

/**
 * Width of the code with its quiet zone: from 46 mm on all were read at 150 dots an inch with a blur of one pixel, and at 100 dots as a
 * JPEG; of 40 mm half.
 */
const codeWidth = mm(48)

function drawCode({ doc, tags }: Paper, { content, code }: PrintableCard, y: number): void {
  const { signed } = wordsOf(content).cardTexts
  const left = page.right - codeWidth
  tags.part('Figure', () => drawQrCode(doc, [{ data: code, mode: 'alphanumeric' }], left, y, codeWidth, true), {
    alt: signed,
    bbox: [left, y, page.right, y + codeWidth],
  })
  tags.part('P', () => drawLine(doc, signed, left, y + codeWidth + mm(0.5), { face: 'sans', size: 7, colour: soft }, codeWidth))
}

function drawFoot({ doc, tags }: Paper, content: CardContent, from: number): void {
  const { cardTexts } = wordsOf(content)
  const isOver = from > mm(284) - footHeight
  if (isOver) doc.addPage()
  let y = isOver ? mm(18) : from
  tags.ornament(() => rule(doc, y, 0.5))
  y += mm(4)
  tags.part('H2', () => drawLine(doc, cardTexts.instructions, page.left, y, { face: 'serif', size: 11.5 }))
  y += mm(7)
  tags.group('L', () =>
    content.instructions.forEach((text, i) =>
      tags.group('LI', () => {
        tags.part('Lbl', () => drawLine(doc, `${i + 1}.`, page.left, y, { face: 'sans', size: 9.5 }))
        y = tags.part('LBody', () => drawParagraph(doc, text, page.left + mm(6), y, page.width - mm(6), { face: 'sans', size: 9.5 })) + 2.5
      })
    ))
  tags.part(
    'P',
    () =>
      drawLine(doc, formatMessage('en', cardTexts.version, { version: content.version }), page.left, mm(284), {
        face: 'sans',
        size: 8,
        colour: soft,
      }),
  )
}

function rule(doc: PDFKit.PDFDocument, y: number, weight: number): void {
  doc.moveTo(page.left, y).lineTo(page.right, y).lineWidth(weight).stroke(weight > 1 ? ink : hairline)
}
