import { CsvError, parse as parserOf } from 'csv-parse'
import { parse } from 'csv-parse/sync'
import { detect } from 'chardet'
import ExcelJS from 'exceljs'
import { Readable } from 'node:stream'
import { charsets } from '../shared/charsets'
import { refusal } from '../shared/refusal'
import { odsRows } from './ods'
import { isZip, measureZip } from './zip'

/**
 * Tables as files: CSV (RFC 4180), XLSX (ECMA-376) and ODS (ISO/IEC 26300), read row by row as texts, so that memory does not grow with
 * their length. The file's first sheet is the table.
 */

export type TableFormat = 'csv' | 'xlsx' | 'ods'
/** What a file was recognised as; `charset` and `delimiter` are those of a CSV. */
export interface TableKind {
  format: TableFormat
  charset: string | null
  delimiter: string | null
  /** Rows that say something above the heading; none where this is left out. */
  above?: number
}

// No database keeps NUL in a text, nor half of a surrogate pair.
const unkeepable = /\0|[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g

/** Bounds of a table: bytes of the file, rows and columns of the sheet. */
export const tableBounds = { bytes: 64 * 1024 * 1024, rows: 500_000, columns: 400, cell: 20_000 } as const

// Any of them, whichever a file uses, mixed ones as well.
const lineEnds = ['\r\n', '\n', '\r']
const delimiters = [',', ';', '\t', '|'] as const

/** Tells by the bytes what a table is. @throws ProblemError `table.empty`, `table.unknown` or what is wrong with its packing. */
export async function recogniseTable(bytes: Buffer): Promise<TableKind> {
  if (bytes.length === 0) throw refusal('table.empty')
  if (isZip(bytes)) {
    const names = await measureZip(bytes)
    if (names.has('xl/workbook.xml')) return { format: 'xlsx', charset: null, delimiter: null }
    if (names.has('content.xml')) return { format: 'ods', charset: null, delimiter: null }
    throw refusal('table.unknown')
  }
  const charset = charsetOf(bytes)
  const head = decoded(bytes.subarray(0, 256 * 1024), charset)
  // What is no text: a picture, a PDF, an older spreadsheet.
  // eslint-disable-next-line no-control-regex -- exactly these signs are looked for
  if (/[\u0000-\u0008\u000E-\u001A\u001C-\u001F]/.test(head.slice(0, 4096)) || head.startsWith('%PDF')) throw refusal('table.unknown')
  return { format: 'csv', charset, delimiter: delimiterOf(head) }
}

/** The character set: by its mark, by being sound UTF-8, by its zero bytes, or by how often signs stand in it. */
function charsetOf(bytes: Buffer): string {
  if (bytes[0] === 0xFF && bytes[1] === 0xFE) return 'utf-16le'
  if (bytes[0] === 0xFE && bytes[1] === 0xFF) return 'utf-16be'
  const head = bytes.subarray(0, 4096)
  const zeros = (offset: number) => head.filter((byte, i) => i % 2 === offset && byte === 0).length / (head.length / 2)
  if (zeros(1) > 0.3 && zeros(0) < 0.05) return 'utf-16le'
  if (zeros(0) > 0.3 && zeros(1) < 0.05) return 'utf-16be'
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes)
    return 'utf-8'
  } catch {
    const guessed = detect(bytes.subarray(0, 256 * 1024))?.toLowerCase() ?? 'windows-1252'
    return charsets.find(known => known === guessed && known !== 'utf-8') ?? 'windows-1252'
  }
}

const decoded = (bytes: Buffer, charset: string): string => new TextDecoder(charset).decode(bytes)

/** A whole file as text, in the character set that its bytes show, or the one that it names. */
export const textOf = (bytes: Buffer, charset: string | null = null): string => decoded(bytes, charset ?? charsetOf(bytes))

/** The sign that parts the first lines into most columns, and into as many in each. */
function delimiterOf(head: string): string {
  const lines = head.split(/\r\n|\n|\r/).slice(0, 30)
  // The last line of a piece may be cut.
  const sample = lines.slice(0, Math.max(1, lines.length - 1)).join('\n')
  let best: { sign: string, columns: number } = { sign: ',', columns: 1 }
  for (const sign of delimiters) {
    const widths = widthsBy(sample, sign)
    const columns = Math.min(...widths) === Math.max(...widths) ? widths[0] ?? 1 : Math.min(...widths) + 0.5
    if (columns > best.columns) best = { sign, columns }
  }
  return best.sign
}

// Parted by a sign that it does not use, a table with quotation marks may be no table at all.
function widthsBy(sample: string, sign: string): number[] {
  try {
    return parse(sample, { delimiter: sign, bom: true, record_delimiter: lineEnds, relax_column_count: true, skip_empty_lines: true }).map(
      row => row.length
    )
  } catch {
    return [1]
  }
}

/**
 * The rows of a table from the first on, each with as many cells as it has. @throws ProblemError where it cannot be read further, naming
 * the row.
 */
export async function* tableRows(bytes: Buffer, kind: TableKind): AsyncGenerator<string[]> {
  let number = 0
  for await (const row of rowsOf(bytes, kind)) {
    number += 1
    if (number > tableBounds.rows) throw refusal('table.rows', { most: tableBounds.rows })
    if (row.length > tableBounds.columns) throw refusal('table.columns', { row: number, columns: row.length, most: tableBounds.columns })
    yield row.map(cell => (cell.length > tableBounds.cell ? cell.slice(0, tableBounds.cell) : cell).replace(unkeepable, '\uFFFD'))
  }
}

function rowsOf(bytes: Buffer, kind: TableKind): AsyncGenerator<string[]> {
  if (kind.format === 'csv') return csvRows(bytes, kind)
  return kind.format === 'xlsx' ? xlsxRows(bytes) : odsRows(bytes)
}

async function* csvRows(bytes: Buffer, { charset, delimiter }: TableKind): AsyncGenerator<string[]> {
  const parser = parserOf({
    delimiter: delimiter ?? ',',
    bom: true,
    record_delimiter: lineEnds,
    relax_column_count: true,
    skip_empty_lines: false,
    max_record_size: 1_000_000,
  })
  const text = Readable.from(textPieces(bytes, charset ?? 'utf-8'))
  text.on('error', error => parser.destroy(error))
  text.pipe(parser)
  try {
    for await (const row of parser) yield row as string[]
  } catch (error) {
    if (!(error instanceof CsvError)) throw error
    throw refusal('table.csv', {
      line: typeof error.lines === 'number' ? error.lines : 0,
      what: error.code === 'CSV_QUOTE_NOT_CLOSED' ? 'open' : 'quote',
    })
  }
}

function* textPieces(bytes: Buffer, charset: string): Generator<string> {
  const decoder = new TextDecoder(charset)
  const size = 1 << 20
  for (let from = 0; from < bytes.length; from += size) yield decoder.decode(bytes.subarray(from, from + size), { stream: true })
  const rest = decoder.decode()
  if (rest !== '') yield rest
}

async function* xlsxRows(bytes: Buffer): AsyncGenerator<string[]> {
  const reader = new ExcelJS.stream.xlsx.WorkbookReader(Readable.from(pieces(bytes)), {
    worksheets: 'emit',
    sharedStrings: 'cache',
    styles: 'cache',
    hyperlinks: 'ignore',
    entries: 'emit',
  })
  try {
    for await (const sheet of reader) {
      let next = 1
      for await (const row of sheet) {
        // Rows without a cell are left out of the file; the numbers of those after them must hold.
        for (; next < row.number && next <= tableBounds.rows; next += 1) yield []
        next += 1
        const cells: string[] = []
        row.eachCell({ includeEmpty: true }, cell => cells.push(cellText(cell.value, cell.numFmt)))
        yield cells
      }
      return
    }
  } catch (error) {
    if (error instanceof Error && error.name === 'ProblemError') throw error
    throw refusal('table.broken')
  }
}

function* pieces(bytes: Buffer): Generator<Buffer> {
  for (let from = 0; from < bytes.length; from += 1 << 18) yield bytes.subarray(from, from + (1 << 18))
}

/** What a cell shows: days as ISO 8601, results of formulas, links and rich texts as their text. */
function cellText(value: unknown, format = ''): string {
  if (value === null || value === undefined) return ''
  if (value instanceof Date) return dayOrMoment(value)
  if (typeof value !== 'object') return String(value)
  if ('richText' in value && Array.isArray(value.richText)) {
    return value.richText.map((part: { text?: unknown }) => String(part.text ?? '')).join('')
  }
  // What a formula gives stands as a bare number, whatever the cell shows.
  if ('result' in value) {
    return typeof value.result === 'number' && showsDay(format)
      ? dayOrMoment(new Date(Math.round((value.result - dayZero) * 86_400_000)))
      : cellText(value.result)
  }
  if ('error' in value) return String(value.error)
  return 'text' in value ? cellText(value.text) : ''
}

/** Days from the beginning of a spreadsheet's calendar to 1 January 1970 (ECMA-376 part 1, 18.17.4.1, the 1900 date system). */
const dayZero = 25_569
// Colours and texts in a format are no parts of a day.
const showsDay = (format: string) => /[yd]/i.test(format.replace(/\[[^\]]*\]|"[^"]*"/g, ''))

// A day on its own is midnight; the calendar of spreadsheets knows no zone.
function dayOrMoment(date: Date): string {
  if (Number.isNaN(date.getTime())) return ''
  const iso = date.toISOString()
  return iso.endsWith('T00:00:00.000Z') ? iso.slice(0, 10) : iso.slice(0, 16).replace('T', ' ')
}
