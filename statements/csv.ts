import { exponentOf, readAmount, type Statement, type StatementLine } from '../core/bank/statement'
import { parseCalendarDate } from '../core/calendar/calendar-date'
import type { CsvMapping } from '../shared/bank'
import { refusal } from '../shared/refusal'
import { recogniseTable, tableRows } from '../tables/read'

/** The statement that a CSV makes. Lines stand in the order of their days, whichever way the bank lists them. */
export async function readCsv(bytes: Buffer, mapping: CsvMapping, whose: { account: string, currency: string }): Promise<Statement> {
  const kind = await recogniseTable(bytes)
  if (kind.format !== 'csv') throw refusal('statement.unknown')
  const wanted = [mapping.bookedOn, mapping.amount, mapping.debit, mapping.valueOn, mapping.reference, ...mapping.text, mapping.name,
    mapping.account, mapping.bankReference, mapping.balance, mapping.currency].filter(one => one !== null)
  let columns: Map<string, number> | null = null
  let number = 0
  const rows: Row[] = []
  for await (const cells of tableRows(bytes, kind)) {
    number += 1
    const trimmed = cells.map(cell => cell.trim())
    // Banks put lines about the account before the headings.
    if (!columns) columns = wanted.every(one => trimmed.includes(one)) ? new Map(trimmed.map((cell, i) => [cell, i])) : null
    else if (trimmed.some(cell => cell !== '')) rows.push(rowOf(trimmed, columns, mapping, whose, number))
  }
  if (!columns) throw refusal('statement.headings', { headings: wanted.join(', ').slice(0, 300) })
  if (rows.length === 0) throw refusal('statement.empty')
  return statementOf(rows, whose)
}

interface Row {
  line: StatementLine
  balance: number | null
  number: number
}

function rowOf(
  cells: readonly string[],
  columns: ReadonlyMap<string, number>,
  mapping: CsvMapping,
  { currency }: { currency: string },
  number: number,
): Row {
  const cell = (name: string | null) => name === null ? null : cells[columns.get(name) ?? -1] || null
  const money = (name: string | null) => {
    const text = cell(name)
    if (text === null) return null
    const amount = readAmount(text.replace(new RegExp(`\\s*${currency}\\s*`), ''), mapping.mark, exponentOf(currency))
    if (amount === null) throw refusal('statement.amount', { line: number, text: text.slice(0, 40) })
    return amount
  }
  const written = cell(mapping.currency)
  if (written !== null && written.toUpperCase() !== currency) {
    throw refusal('statement.mixed', { line: number, currency: written.slice(0, 10), other: currency })
  }
  const [amount, debit] = [money(mapping.amount), money(mapping.debit)]
  if (amount === null && debit === null) throw refusal('statement.amount', { line: number, text: '' })
  const day = (name: string | null) => {
    const text = cell(name)
    const read = text === null ? null : dayOf(text, mapping.order)
    if (text !== null && read === null) throw refusal('statement.date', { line: number, text: text.slice(0, 20) })
    return read
  }
  const bookedOn = day(mapping.bookedOn)
  if (bookedOn === null) throw refusal('statement.date', { line: number, text: '' })
  const line: StatementLine = {
    bookedOn,
    valueOn: day(mapping.valueOn),
    amount: (amount ?? 0) - Math.abs(debit ?? 0),
    reference: cell(mapping.reference),
    text: mapping.text.flatMap(name => cell(name) ?? []).join(' ').slice(0, 2000),
    name: cell(mapping.name),
    account: cell(mapping.account),
    bankReference: cell(mapping.bankReference),
    isReversal: false,
  }
  return { line, balance: money(mapping.balance), number }
}

function dayOf(text: string, order: CsvMapping['order']): string | null {
  const parts = /^(\d{1,4})[-./\s](\d{1,2})[-./\s](\d{1,4})(?:[T\s].*)?$/.exec(text)?.slice(1, 4)
    ?? (/^\d{8}$/.test(text)
      ? (order === 'ymd' ? [text.slice(0, 4), text.slice(4, 6), text.slice(6)] : [text.slice(0, 2), text.slice(2, 4), text.slice(4)])
      : [])
  const [year = '', month = '', day = ''] = order === 'ymd'
    ? parts
    : order === 'dmy'
    ? [parts[2], parts[1], parts[0]]
    : [parts[2], parts[0], parts[1]]
  const read = `${year.length === 2 ? `20${year}` : year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`
  return parseCalendarDate(read) ? read : null
}

function statementOf(given: readonly Row[], { account, currency }: { account: string, currency: string }): Statement {
  const rows = isNewestFirst(given) ? [...given].reverse() : [...given]
  const [first, last] = [rows[0], rows.at(-1)]
  // The running balance proves that no line is missing between two others.
  rows.forEach(({ balance, line, number }, i) => {
    const before = rows[i - 1]?.balance
    if (balance !== null && before !== null && before !== undefined && before + line.amount !== balance) {
      throw refusal('statement.running', { line: number })
    }
  })
  const at = (row: Row | undefined, amount: number | null | undefined) =>
    row && amount !== null && amount !== undefined ? { on: row.line.bookedOn, amount } : null
  return {
    format: 'CSV',
    account,
    identification: '',
    sequence: null,
    currency,
    lines: rows.map(row => row.line),
    opening: at(first, first && first.balance !== null ? first.balance - first.line.amount : null),
    closing: at(last, last?.balance),
  }
}

function isNewestFirst(rows: readonly Row[]): boolean {
  const [first, last] = [rows[0], rows.at(-1)]
  if (!first || !last || first.line.bookedOn !== last.line.bookedOn) return (first?.line.bookedOn ?? '') > (last?.line.bookedOn ?? '')
  // Within one day the balance tells which way it is counted.
  const second = rows[1]
  return second !== undefined && second.balance !== null && first.balance !== null && second.balance + first.line.amount === first.balance
    && first.balance + second.line.amount !== second.balance
}
