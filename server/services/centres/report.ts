import { kilometreStep } from '../../../core/allocation/outcome'
import { spellInstant } from '../../../core/calendar/zone'
import type { Notice } from '../../../core/notice/schema'
import { costWords, policyTitles, policyWords, standingWords } from '../../../core/words/en/allocation'
import { documentOf, mm } from '../../paper/document'
import { drawLine, drawParagraph, lineWidth, type TextStyle } from '../../paper/typeset'
import type { Caller } from '../context'
import { currentNotice } from '../notice/notices'
import { storedRun, type StoredRun } from './runs'

const page = { left: mm(18), width: mm(174), bottom: mm(280) }
const [ink, soft, line, sea, amber, madder] = ['#1d2a33', '#56646d', '#b9b1a0', '#155e75', '#a15c07', '#9f2d2d']
const text: TextStyle = { face: 'sans', size: 9.5, colour: ink }
const small: TextStyle = { face: 'sans', size: 8.5, colour: soft }

/** The report of a run for the file, A4: policy, proof, charts and every city. Equal run, equal bytes. */
export async function runReport(caller: Caller, runId: string): Promise<{ name: string, pdf: Buffer }> {
  const context = await caller.authorise('centres.read')
  const run = await storedRun(context.db, runId)
  const { notice } = await currentNotice(context.db, run.cycle)
  const pdf = await documentOf({ title: `Allocation run ${run.serial}`, author: notice.body.name, at: run.at }, (doc) => {
    let y = drawHead(doc, run, notice)
    y = drawBars(doc, 'Which choice people got', choiceBars(run), y + mm(6))
    y = drawBars(doc, 'How far from home', distanceBars(run), y + mm(5))
    drawCities(doc, run, notice, y + mm(5))
  })
  return { name: `${run.cycle}-run-${run.serial}.pdf`, pdf }
}

function drawHead(doc: PDFKit.PDFDocument, run: StoredRun, notice: Notice): number {
  drawLine(doc, notice.body.name, page.left, mm(15), { face: 'serif', size: 12, colour: soft }, page.width)
  drawLine(doc, `Allocation of test cities, run ${run.serial}`, page.left, mm(22), { face: 'serif', size: 19, colour: ink }, page.width)
  let y = mm(32)
  const say = (words: string, style = text) => { y = drawParagraph(doc, words, page.left, y, page.width, style) + mm(1) }
  say(`${notice.title}. ${run.summary.people.toLocaleString('en-GB')} people, ${spellInstant(run.at, notice.body.zone)}, by ${run.by}.${run.note ? ` ${run.note}.` : ''}`)
  say(`${policyTitles[run.policy.kind]}. ${policyWords[run.policy.kind]}${run.policy.kind === 'lottery' ? ` The published seed is ${run.policy.seed}.` : ''}`)
  say(costWords(run.policy).map(([what, cost]) => `${what}: ${cost}`).join('; ') + '.', small)
  for (const { title } of run.restrictions) say(`Held to: ${title}.`, small)
  say(standingWords(run), { ...text, colour: run.standing === 'not certified' ? madder : ink })
  say(`SHA-256 of what went in: ${run.inputsSha256}`, small)
  say(run.publishedAt ? `Published ${spellInstant(run.publishedAt, notice.body.zone)} by ${run.publishedBy}.` : 'Not published.')
  return y
}

interface Bar { title: string, count: number, colour: string | undefined }

function choiceBars({ summary }: StoredRun): Bar[] {
  return [
    ...summary.byChoice.map((count, i) => ({ title: `Choice ${i + 1}`, count, colour: sea })),
    { title: 'Off the list', count: summary.offList, colour: amber }, { title: 'No seat', count: summary.unseated, colour: madder },
  ]
}

function distanceBars({ summary }: StoredRun): Bar[] {
  const shown = summary.byDistance.slice(0, 11).map((count, i) => ({ title: `${i * kilometreStep} to ${(i + 1) * kilometreStep} km`, count, colour: sea }))
  const rest = summary.byDistance.slice(11).reduce((sum, n) => sum + n, 0)
  return rest > 0 ? [...shown, { title: `${11 * kilometreStep} km and more`, count: rest, colour: amber }] : shown
}

function drawBars(doc: PDFKit.PDFDocument, title: string, bars: Bar[], top: number): number {
  let y = top
  drawLine(doc, title, page.left, y, { face: 'serif', size: 12, colour: ink })
  y += mm(7)
  const sum = bars.reduce((n, bar) => n + bar.count, 0)
  const most = Math.max(1, ...bars.map(bar => bar.count))
  for (const bar of bars) {
    drawLine(doc, bar.title, page.left, y, text)
    doc.rect(page.left + mm(34), y + 1, Math.max(0.5, mm(100) * bar.count / most), 9).fill(bar.colour ?? sea)
    drawLine(doc, `${bar.count.toLocaleString('en-GB')}   ${(sum > 0 ? bar.count * 100 / sum : 0).toFixed(1)} %`, page.left + mm(138), y, text)
    y += mm(5)
  }
  return y
}

const columns = ['city', 'seats', 'first choices', 'placed', 'accessible used', 'off their list', 'price of a seat']
const widths = [38, 18, 24, 18, 28, 24, 24].map(mm)

function drawCities(doc: PDFKit.PDFDocument, run: StoredRun, notice: Notice, top: number): void {
  let y = top
  const head = () => {
    drawRow(doc, columns, y, small)
    doc.moveTo(page.left, y + mm(4.6)).lineTo(page.left + page.width, y + mm(4.6)).lineWidth(0.5).stroke(line)
    y += mm(6)
  }
  if (y > page.bottom - mm(30)) y = newPage(doc)
  head()
  for (const city of [...run.summary.cities].sort((a, b) => b.firstChoice - a.firstChoice)) {
    if (y > page.bottom) {
      y = newPage(doc)
      head()
    }
    const title = notice.cities.find(c => c.id === city.city)?.title ?? city.city
    drawRow(doc, [title, city.capacity, city.firstChoice, city.placed, `${city.placedInNeed} of ${city.accessibleCapacity}`, city.placedOffList, city.price].map(String), y, text)
    y += mm(5)
  }
}

function newPage(doc: PDFKit.PDFDocument): number {
  doc.addPage()
  return mm(18)
}

function drawRow(doc: PDFKit.PDFDocument, cells: string[], y: number, style: TextStyle): void {
  let x = page.left
  cells.forEach((cell, i) => {
    const width = widths[i] ?? 0
    drawLine(doc, cell, i === 0 ? x : x + width - lineWidth(doc, cell, style), y, style)
    x += width
  })
}
