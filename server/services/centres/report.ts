import { kilometreStep } from '../../../core/allocation/outcome'
import { spellInstant } from '../../../core/calendar/zone'
import type { Notice } from '../../../core/notice/schema'
import type { Language } from '../../../core/words/language'
import { formatMessage, type MessageParameters } from '../../../core/words/message'
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
  const words = spoken(context.language)
  const pdf = await documentOf({ title: words.say('title', { serial: run.serial }), author: notice.body.name, at: run.at }, (doc) => {
    let y = drawHead(doc, run, notice, words)
    y = drawBars(doc, words.say('choices'), choiceBars(run, words), y + mm(6))
    y = drawBars(doc, words.say('distances'), distanceBars(run, words), y + mm(5))
    drawCities(doc, run, notice, words, y + mm(5))
  })
  return { name: `${run.cycle}-run-${run.serial}.pdf`, pdf }
}

type ReportText = keyof Language['papers']['runReportTexts']
/** The words of a report in one language. */
interface Spoken {
  language: Language
  say: (text: ReportText, parameters?: MessageParameters) => string
}

function spoken(language: Language): Spoken {
  return { language, say: (text, parameters = {}) => formatMessage(language.locale, language.papers.runReportTexts[text], parameters) }
}

function drawHead(doc: PDFKit.PDFDocument, run: StoredRun, notice: Notice, { language, say }: Spoken): number {
  const { costWords, policyTitles, policyWords, standingWords } = language.allocation
  drawLine(doc, notice.body.name, page.left, mm(15), { face: 'serif', size: 12, colour: soft }, page.width)
  drawLine(doc, say('heading', { serial: run.serial }), page.left, mm(22), { face: 'serif', size: 19, colour: ink }, page.width)
  let y = mm(32)
  const draw = (words: string, style = text) => {
    y = drawParagraph(doc, words, page.left, y, page.width, style) + mm(1)
  }
  draw([say('people', { title: notice.title, count: run.summary.people, at: spellInstant(run.at, notice.body.zone), by: run.by }),
    ...(run.note ? [say('note', { note: run.note })] : [])].join(' '))
  const { kind, seed } = run.policy
  draw([say('policy', { title: policyTitles[kind], does: policyWords[kind] }), ...(kind === 'lottery' ? [say('seed', { seed })] : [])]
    .join(' '))
  draw(costWords(run.policy).map(([what, cost]) => `${what}: ${cost}`).join('; ') + '.', small)
  for (const { title } of run.restrictions) draw(say('held', { title }), small)
  for (const { title, cities } of run.sittings?.kept ?? []) {
    const sum = (of: 'kept' | 'opened') => cities.reduce((n, city) => n + city[of], 0)
    draw(say('kept', { title, kept: sum('kept'), opened: sum('opened') }), small)
  }
  draw(standingWords(run), { ...text, colour: run.standing === 'not certified' ? madder : ink })
  draw(say('inputs', { hash: run.inputsSha256 }), small)
  draw(run.publishedAt
    ? say('published', { at: spellInstant(run.publishedAt, notice.body.zone), by: run.publishedBy })
    : say('notPublished'))
  return y
}

interface Bar {
  title: string
  count: number
  colour: string | undefined
}

function choiceBars({ summary }: StoredRun, { say }: Spoken): Bar[] {
  return [
    ...summary.byChoice.map((count, i) => ({ title: say('choice', { n: i + 1 }), count, colour: sea })),
    { title: say('offList'), count: summary.offList, colour: amber },
    { title: say('noSeat'), count: summary.unseated, colour: madder },
  ]
}

function distanceBars({ summary }: StoredRun, { say }: Spoken): Bar[] {
  const shown = summary.byDistance.slice(0, 11).map((count, i) => ({
    title: say('distance', { from: i * kilometreStep, to: (i + 1) * kilometreStep }),
    count,
    colour: sea,
  }))
  const rest = summary.byDistance.slice(11).reduce((sum, n) => sum + n, 0)
  return rest > 0 ? [...shown, { title: say('farther', { from: 11 * kilometreStep }), count: rest, colour: amber }] : shown
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
    drawLine(
      doc,
      `${bar.count.toLocaleString('en-GB')}   ${(sum > 0 ? bar.count * 100 / sum : 0).toFixed(1)} %`,
      page.left + mm(138),
      y,
      text,
    )
    y += mm(5)
  }
  return y
}

const columns: readonly ReportText[] = ['city', 'seats', 'firstChoices', 'placed', 'accessible', 'offTheirList', 'price']
const widths = [38, 18, 24, 18, 28, 24, 24].map(mm)

function drawCities(doc: PDFKit.PDFDocument, run: StoredRun, notice: Notice, { say }: Spoken, top: number): void {
  let y = top
  const head = () => {
    drawRow(doc, columns.map(column => say(column)), y, small)
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
    drawRow(
      doc,
      [title, city.capacity, city.firstChoice, city.placed, say('ofSeats', { used: city.placedInNeed, all: city.accessibleCapacity }),
        city.placedOffList, city.price].map(String),
      y,
      text,
    )
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
    drawLine(doc, cell, i === 0 ? x : x + width - lineWidth(cell, style), y, style)
    x += width
  })
}
