import type { Answer, Answers, Row } from '../application/answers'
import { readDates, readMonth } from '../calendar/read-date'
import type { Finding } from '../finding/finding'
import { nameKey, storedText } from '../identity/names'
import type { Notice, Question } from '../notice/schema'
import { isListField, listOf, referenceField, type Member, type RollField } from './columns'

/** One row of a nominal roll made into answers. What cannot be read stays as it was written, with a finding that says why. */

/** Which comes first where a date could be read two ways; null where nobody has said. */
export type DateOrder = 'day' | 'month' | null

/** What words of a sender mean, by field and word: the id of an option, a post or a city, or nothing for a word that says none. */
export type RollWords = Readonly<Record<string, Readonly<Record<string, string>>>>

/** A word as it is compared with others: in any writing, or as it stands where nothing of it is a letter or digit. */
const wordKey = (text: string): string => nameKey(text) || text
/** The same words as they are compared: what reading a row wants. A cell may say any word, so that none is looked for in an object. */
export type ComparedWords = ReadonlyMap<string, ReadonlyMap<string, string>>
export const comparedWords = (words: RollWords): ComparedWords =>
  new Map(Object.entries(words).map(
    ([field, said]) => [field, new Map(Object.entries(said).map(([word, member]) => [wordKey(word), member]))]
  ))

/** A column of the roll, by its place from 0, and the field it fills. */
export interface MappedColumn {
  place: number
  field: RollField
}

/** `files` are names of files by slot, as columns of the roll have them. */
export interface RollRow {
  reference: string
  answers: Answers
  files: Partial<Record<string, string>>
  findings: Finding[]
}

/** Makes the cells of one row into answers, with what is wrong in how they are written. `width` is that of the heading. */
export function readRollRow(
  notice: Notice,
  columns: readonly MappedColumn[],
  width: number,
  cells: readonly string[],
  order: DateOrder,
  words: ComparedWords = new Map(),
): RollRow {
  const row: RollRow = { reference: '', answers: {}, files: {}, findings: [] }
  // Spreadsheets leave empty cells at the end away; more cells than headings mean that some stand in the wrong column.
  const filled = cells.findLastIndex(cell => cell.trim() !== '') + 1
  if (filled > width) row.findings.push(finding('roll.long', '', { cells: filled, columns: width }))
  for (const { place, field } of columns) {
    const written = cells[place] ?? ''
    const text = storedText(written)
    // eslint-disable-next-line no-control-regex -- exactly these signs are looked for
    if (/[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFD]/.test(written)) {
      row.findings.push(finding('roll.signs', field.id, { label: field.title, written: shown(text) }))
    }
    if (text === '') continue
    if ('slot' in field) row.files[field.slot] = text
    else if (field.id === referenceField || !('question' in field)) row.reference = text
    else if ('row' in field) setCell(row, field, cellAnswer(row, notice, field, text, order, words))
    else if (isListField(field)) {
      // Choices that stand in columns of their own are one list, in the order of the columns.
      const before = row.answers[field.question.id]
      row.answers[field.question.id] = [...Array.isArray(before) ? before as string[] : [],
        ...membersOf(row, field, listOf(notice, field), text, words)]
    } else row.answers[field.question.id] = answerOf(row, notice, field, text, order, words)
  }
  for (const [question, answer] of Object.entries(row.answers)) {
    if (Array.isArray(answer)) row.answers[question] = answer.filter(Boolean) as Answer
  }
  return row
}

const shownAtMost = 60
const shown = (text: string) => [...text].slice(0, shownAtMost).join('')
function finding(code: string, about: string, parameters: Record<string, string | number>): Finding {
  return { code, about, verdict: 'fail', value: null, unit: 'none', bound: null, parameters }
}

function answerOf(
  row: RollRow,
  notice: Notice,
  field: Extract<RollField, { question: Question }>,
  text: string,
  order: DateOrder,
  words: ComparedWords,
): Answer {
  const { question } = field
  switch (question.kind) {
    case 'date':
      return dayOf(row, field, text, order, question.monthOnly)
    case 'choice':
    case 'posts':
    case 'cities':
      return optionOf(row, field, listOf(notice, field), text, words)
    case 'number':
    case 'marks':
      return numberOf(text)
    case 'mobile':
    case 'postalCode':
      return digitsOf(row, field, text)
    case 'name':
    case 'text':
    case 'email':
    case 'table':
      return text
  }
}

function cellAnswer(
  row: RollRow,
  notice: Notice,
  field: Extract<RollField, { row: number }>,
  text: string,
  order: DateOrder,
  words: ComparedWords,
): string {
  const column = field.question.columns.find(one => one.id === field.column)
  if (column?.kind === 'date') return dayOf(row, field, text, order, column.monthOnly)
  if (column?.kind === 'choice') return optionOf(row, field, listOf(notice, field), text, words)
  return column?.kind === 'marks' ? numberOf(text) : text
}

function setCell(row: RollRow, field: Extract<RollField, { row: number }>, cell: string): void {
  const held = row.answers[field.question.id]
  const rows = Array.isArray(held) ? held as Row[] : []
  while (rows.length <= field.row) rows.push({})
  rows[field.row] = { ...rows[field.row], [field.column]: cell }
  row.answers[field.question.id] = rows
}

interface About {
  id: string
  title: string
}

function dayOf(row: RollRow, about: About, text: string, order: DateOrder, monthOnly = false): string {
  return !monthOnly ? dateOf(row, about, text, order) : readMonth(text) ?? unreadable(row, 'roll.no-month', about, text)
}

function dateOf(row: RollRow, about: About, text: string, order: DateOrder): string {
  const read = readDates(text)
  const [first, second] = read
  if (first === undefined) return unreadable(row, 'roll.no-date', about, text)
  if (second === undefined) return first
  if (order === null) return unreadable(row, 'roll.two-dates', about, text, { first, second })
  // Of 03/04/2006 the day-first reading has the day 3: the one whose day stands first in the text.
  const leading = Number(/\d+/.exec(text)?.[0]?.slice(0, 2))
  const dayFirst = read.find(date => Number(date.slice(8)) === leading) ?? first
  return order === 'day' ? dayFirst : read.find(date => date !== dayFirst) ?? first
}

function optionOf(row: RollRow, about: About, options: readonly Member[], text: string, words: ComparedWords): string {
  return memberOf(options, text) ?? words.get(about.id)?.get(wordKey(text))
    ?? unreadable(row, 'roll.no-option', about, text, { options: options.map(option => option.title).slice(0, 12).join('; ') })
}

function membersOf(row: RollRow, about: About, members: readonly Member[], text: string, words: ComparedWords): string[] {
  const whole = memberOf(members, text) ?? words.get(about.id)?.get(wordKey(text))
  const parts = whole === undefined
    ? text.split(/[;|\n]|,(?!\d)/).map(storedText).filter(Boolean).map(part => optionOf(row, about, members, part, words))
    : [whole]
  return parts.filter(Boolean)
}

/** The member of a list by its id or title, in any writing. */
function memberOf(members: readonly Member[], text: string): string | undefined {
  let known = byKey.get(members)
  if (!known) {
    known = new Map(members.flatMap(({ id, title }) => [[nameKey(title), id], [nameKey(id), id]] as const).reverse())
    for (const { id } of members) known.set(id, id)
    byKey.set(members, known)
  }
  return known.get(text) ?? known.get(nameKey(text))
}
// The same few lists are asked for every row of a roll.
const byKey = new WeakMap<object, Map<string, string>>()

// 63,5 is a number with a decimal comma; 1,200 has three digits behind it and stays as it is.
const numberOf = (text: string) =>
  /^\d+,\d{1,2}$/.test(text) ? text.replace(',', '.') : text.replace(/^(\d{1,3}(?:,\d{3})+)(\.\d+)?$/, whole => whole.replaceAll(',', ''))

/** A long number that a spreadsheet has shown shortened has lost its last digits for good. */
function digitsOf(row: RollRow, about: About, text: string): string {
  return /^\d(?:[.,]\d+)?E\+?\d+$/i.test(text) ? unreadable(row, 'roll.shortened', about, text) : text.replace(/^(\d+)\.0$/, '$1')
}

function unreadable(row: RollRow, code: string, about: About, text: string, more: Record<string, string> = {}): string {
  row.findings.push(finding(code, about.id, { label: about.title, written: shown(text), ...more }))
  return text
}

/** The word that a finding could not read, and its field; null for any other finding. A very long word is no word. */
export function unknownWord({ code, about, parameters: { written } }: Finding): { field: string, word: string } | null {
  return code === 'roll.no-option' && typeof written === 'string' && [...written].length < shownAtMost
    ? { field: about, word: written }
    : null
}
