import { verdictWithin, type Bound, type Finding, type Unit, type Verdict } from '../finding/finding'
import type { DocumentRule } from '../notice/file-rules'
import { contentOf, type DocumentFacts, type PageFacts } from './document'

/** One page of a document and its number, from 1. */
interface Numbered extends PageFacts {
  page: number
}

/**
 * All findings on one document: the file, its pages, then how well what is written can be read. Order is fixed; of pages the worst is
 * told, by its number.
 */
export function measureDocument(facts: DocumentFacts, rule: DocumentRule): Finding[] {
  const pages = facts.pages.map((page, i): Numbered => ({ ...page, page: i + 1 }))
  return [...fileFindings(facts, rule), ...pageFindings(pages, rule),
    ...writingFindings(pages.filter(page => contentOf(page) === 'scan'), rule)]
}

type Parameters = Finding['parameters']
const stated = (rule: DocumentRule, code: string, verdict: Verdict, parameters: Parameters = {}): Finding => ({
  code: `document.${code}`,
  about: rule.id,
  verdict,
  value: null,
  unit: 'none',
  bound: null,
  parameters,
})

function measured(
  rule: DocumentRule,
  code: string,
  value: number,
  places: number,
  unit: Unit,
  bound: Bound,
  parameters: Parameters = {},
  margin = 0,
): Finding {
  const rounded = Number(value.toFixed(places)) || 0
  return {
    code: `document.${code}`,
    about: rule.id,
    verdict: verdictWithin(rounded, bound, margin),
    value: rounded,
    unit,
    bound,
    parameters,
  }
}

function fileFindings({ format, bytes, pages, locked, mended, attachments }: DocumentFacts, rule: DocumentRule): Finding[] {
  const findings = [
    stated(rule, 'format', rule.formats.includes(format) ? 'pass' : 'fail', {
      format: format.toUpperCase(),
      allowed: rule.formats.map(f => f.toUpperCase()).join(', '),
    }),
    measured(rule, 'bytes', bytes, 0, 'bytes', rule.bytes),
    measured(rule, 'pages', pages.length, 0, 'count', rule.pages),
  ]
  // What is as in nearly every document needs no line.
  if (locked) findings.push(stated(rule, 'locked', 'pass'))
  if (mended) findings.push(stated(rule, 'mended', 'unsure'))
  if (attachments > 0) findings.push(stated(rule, 'attachments', 'unsure', { count: attachments }))
  return findings
}

function pageFindings(pages: Numbered[], rule: DocumentRule): Finding[] {
  const of = (content: string) => pages.filter(page => contentOf(page) === content)
  const findings = [
    stated(rule, 'content', 'pass', {
      text: of('text').length,
      scan: of('scan').length,
      drawing: of('drawing').length,
      blank: of('blank').length,
    }),
  ]
  const list = (found: Numbered[]) => ({ pages: found.map(({ page }) => page).join(', '), of: pages.length })
  if (rule.blankPages) findings.push(measured(rule, 'blankPages', of('blank').length, 0, 'count', rule.blankPages, list(of('blank'))))
  if (rule.pageSide) {
    const sides = pages.flatMap(({ page, paper }) => paper ? [paper.width, paper.height].map(side => ({ page, side, ...paper })) : [])
    const odd = worst(sides, ({ side }) => farFrom(side, rule.pageSide ?? {}))
    if (odd) {
      findings.push(measured(rule, 'pageSide', odd.side, 0, 'mm', rule.pageSide, {
        page: odd.page,
        of: pages.length,
        width: Math.round(odd.width),
        height: Math.round(odd.height),
      }))
    }
  }
  const sideways = pages.filter(({ measures }) => measures.sideways)
  // Where next to nothing is written nothing lies on its side either.
  const untold = pages.filter(({ measures }) => measures.sideways === null && measures.letterHeight !== null)
  findings.push(sideways.length === 0 && untold.length > 0
    ? stated(rule, 'sideways', 'unsure', list(untold))
    : measured(rule, 'sideways', sideways.length, 0, 'count', { max: 0 }, list(sideways)))
  const onHead = pages.filter(({ measures }) => measures.turn === 180)
  if (onHead.length > 0) findings.push(stated(rule, 'onHead', 'fail', list(onHead)))
  return findings
}

/** How far a value lies outside a bound; inside it negative, the nearer to a limit the larger. */
function farFrom(value: number, { min = -Infinity, max = Infinity }: Bound): number {
  return Math.max(min - value, value - max)
}

/** What makes scans hard to read. Text that stands in the file as text is drawn sharp at any size, and needs none of it. */
function writingFindings(scans: Numbered[], rule: DocumentRule): Finding[] {
  const findings: Finding[] = []
  const add = (
    code: 'resolution' | 'letters' | 'blur' | 'contrast' | 'skew',
    unit: Unit,
    places: number,
    margin: number,
    valueOf: (page: Numbered) => number | null,
  ) => {
    const bound = rule[code]
    if (!bound) return
    const values = scans.flatMap((page) => {
      const value = valueOf(page)
      return value === null ? [] : [{ page: page.page, value }]
    })
    const found = worst(values, ({ value }) => farFrom(value, bound))
    if (found) findings.push(measured(rule, code, found.value, places, unit, bound, { page: found.page, of: scans.length }, margin))
  }
  add('resolution', 'dpi', 0, 0, page => page.paper && page.scan ? page.scan.dpi : null)
  add('letters', 'px', 1, 0.7, ({ measures, zoom }) => measures.letterHeight === null ? null : measures.letterHeight * zoom)
  add('blur', 'percent', 1, 2, ({ measures }) => measures.blur)
  add('contrast', 'level', 0, 10, ({ measures }) => measures.contrast)
  add('skew', 'degree', 1, 0.5, ({ measures }) => measures.skew === null ? null : Math.abs(measures.skew))
  const unread = scans.filter(({ measures }) => measures.letterHeight === null)
  if (unread.length > 0) {
    findings.push(stated(rule, 'legible', 'unsure', { pages: unread.map(({ page }) => page).join(', '), of: scans.length }))
  }
  return findings
}

/** The member for which a measure is largest. */
function worst<T>(members: T[], measure: (member: T) => number): T | null {
  return members.reduce<T | null>((found, member) => found === null || measure(member) > measure(found) ? member : found, null)
}
