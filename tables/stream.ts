import { Readable } from 'node:stream'
import yazl from 'yazl'
import { csvOf, harmless } from './write'

export const tableFormats = ['csv', 'xlsx', 'ods', 'jsonl'] as const
export type TableFormat = typeof tableFormats[number]
/** What a cell holds: a text, or several. */
export type Cell = string | readonly string[]
/** A table on its way out, page after page, so that memory does not grow with the number of its rows. */
export interface OutgoingTable {
  title: string
  columns: readonly string[]
  pages: AsyncIterable<readonly (readonly Cell[])[]>
}

export const mediaTypes: Record<TableFormat, string> = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  ods: 'application/vnd.oasis.opendocument.spreadsheet',
  jsonl: 'application/jsonl; charset=utf-8',
}

/** Most rows that a sheet of a spreadsheet holds, headings included (ECMA-376 part 1, 18.3.1.73; programs hold ODS to the same). */
const sheetRows = 1_048_576

/**
 * The table in a format. In all that spreadsheets read each cell is a text that none of them takes for a formula; several texts of one cell
 * are joined by semicolons. JSON Lines keep them apart.
 */
export function tableStream(format: TableFormat, table: OutgoingTable, rowsPerSheet = sheetRows): Readable {
  if (format === 'csv') return Readable.from(csvPieces(table))
  if (format === 'jsonl') return Readable.from(jsonPieces(table))
  const zip = new yazl.ZipFile()
  const out = zip.outputStream as Readable
  const written = format === 'ods' ? writeOds(zip, table, rowsPerSheet) : writeXlsx(zip, table, rowsPerSheet)
  written.catch((error: unknown) => out.destroy(error instanceof Error ? error : new Error(String(error))))
  return out
}

const plain = (cell: Cell): string => typeof cell === 'string' ? cell : cell.join(';')

async function* csvPieces({ columns, pages }: OutgoingTable): AsyncGenerator<string> {
  // The mark tells spreadsheets that it is UTF-8.
  yield `\ufeff${csvOf([columns])}`
  for await (const rows of pages) yield csvOf(rows.map(row => row.map(plain)))
}

async function* jsonPieces({ columns, pages }: OutgoingTable): AsyncGenerator<string> {
  for await (const rows of pages) {
    yield rows.map(row => `${JSON.stringify(Object.fromEntries(columns.map((column, i) => [column, row[i] ?? ''])))}\n`).join('')
  }
}

/** Text within XML: what XML 1.0 has no place for is left out. */
function xml(text: string): string {
  // eslint-disable-next-line no-control-regex
  const printed = text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
  return printed.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;')
}
const cellText = (cell: Cell): string => xml(harmless(plain(cell)))
const head = '<?xml version="1.0" encoding="UTF-8"?>'

/** Rows one by one, with the headings on top of each sheet. */
class Sheets {
  private readonly pages: AsyncIterator<readonly (readonly Cell[])[]>
  private page: readonly (readonly Cell[])[] = []
  private at = 0

  constructor(private readonly table: OutgoingTable, private readonly rowsPerSheet: number) {
    this.pages = table.pages[Symbol.asyncIterator]()
  }

  /** Whether another row is there; reads on as far as it takes. */
  async hasMore(): Promise<boolean> {
    while (this.at >= this.page.length) {
      const next = await this.pages.next()
      if (next.done) return false
      this.page = next.value
      this.at = 0
    }
    return true
  }

  /** One sheet, in pieces of a page each. */
  async *pieces(row: (cells: readonly Cell[], place: number) => string): AsyncGenerator<string> {
    yield row(this.table.columns, 1)
    for (let left = this.rowsPerSheet - 1; left > 0 && await this.hasMore();) {
      const rows = this.page.slice(this.at, this.at + left)
      this.at += rows.length
      const first = this.rowsPerSheet - left + 1
      left -= rows.length
      yield rows.map((cells, i) => row(cells, first + i)).join('')
    }
  }
}

/** Adds a part that is written piece by piece, and waits until it is. */
function addStream(zip: yazl.ZipFile, name: string, pieces: AsyncGenerator<string>): Promise<void> {
  const stream = Readable.from(pieces, { objectMode: false })
  return new Promise((done, fail) => {
    stream.on('end', done).on('error', fail)
    zip.addReadStream(stream, name)
  })
}
const addText = (zip: yazl.ZipFile, name: string, text: string, compress = true) => zip.addBuffer(Buffer.from(text), name, { compress })

/** OpenDocument (ISO/IEC 26300): the type comes first and as it is, so that programs know the file by its first bytes. */
async function writeOds(zip: yazl.ZipFile, table: OutgoingTable, rowsPerSheet: number): Promise<void> {
  addText(zip, 'mimetype', mediaTypes.ods, false)
  addText(
    zip,
    'META-INF/manifest.xml',
    `${head}<manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.3"><manifest:file-entry manifest:full-path="/" manifest:media-type="${mediaTypes.ods}"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/></manifest:manifest>`,
  )
  await addStream(zip, 'content.xml', odsContent(table, rowsPerSheet))
  zip.end()
}

async function* odsContent(table: OutgoingTable, rowsPerSheet: number): AsyncGenerator<string> {
  const sheets = new Sheets(table, rowsPerSheet)
  const row = (cells: readonly Cell[]) =>
    `<table:table-row>${
      cells.map(cell => `<table:table-cell office:value-type="string"><text:p>${cellText(cell)}</text:p></table:table-cell>`).join('')
    }</table:table-row>`
  const names =
    'xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0"'
  yield `${head}<office:document-content ${names} office:version="1.3"><office:body><office:spreadsheet>`
  for (let serial = 1; serial === 1 || await sheets.hasMore(); serial += 1) {
    yield `<table:table table:name="${xml(sheetName(table.title, serial))}">`
    yield* sheets.pieces(row)
    yield '</table:table>'
  }
  yield '</office:spreadsheet></office:body></office:document-content>'
}

/** Office Open XML (ECMA-376): the sheets first, since only after the last of them it is known how many there are. */
async function writeXlsx(zip: yazl.ZipFile, table: OutgoingTable, rowsPerSheet: number): Promise<void> {
  const sheets = new Sheets(table, rowsPerSheet)
  // The places may be left out by the standard; not every program reads them then.
  const row: XlsxRow = (cells, place) =>
    `<row r="${place}">${
      cells.map((cell, i) => `<c r="${columnName(i)}${place}" t="inlineStr"><is><t xml:space="preserve">${cellText(cell)}</t></is></c>`)
        .join('')
    }</row>`
  let count = 0
  do {
    count += 1
    await addStream(zip, `xl/worksheets/sheet${count}.xml`, xlsxSheet(sheets, row))
  } while (await sheets.hasMore())
  const each = (of: (serial: number) => string) => Array.from({ length: count }, (_, i) => of(i + 1)).join('')
  const [main, relations, office] = ['http://schemas.openxmlformats.org/spreadsheetml/2006/main',
    'http://schemas.openxmlformats.org/package/2006/relationships', 'http://schemas.openxmlformats.org/officeDocument/2006/relationships']
  addText(
    zip,
    'xl/workbook.xml',
    `${head}<workbook xmlns="${main}" xmlns:r="${office}"><sheets>${
      each(serial => `<sheet name="${xml(sheetName(table.title, serial))}" sheetId="${serial}" r:id="rId${serial}"/>`)
    }</sheets></workbook>`,
  )
  addText(
    zip,
    'xl/_rels/workbook.xml.rels',
    `${head}<Relationships xmlns="${relations}">${
      each(serial => `<Relationship Id="rId${serial}" Type="${office}/worksheet" Target="worksheets/sheet${serial}.xml"/>`)
    }</Relationships>`,
  )
  addText(
    zip,
    '_rels/.rels',
    `${head}<Relationships xmlns="${relations}"><Relationship Id="rId1" Type="${office}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
  )
  const of = 'application/vnd.openxmlformats-officedocument.spreadsheetml'
  addText(
    zip,
    '[Content_Types].xml',
    `${head}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="${of}.sheet.main+xml"/>${
      each(serial => `<Override PartName="/xl/worksheets/sheet${serial}.xml" ContentType="${of}.worksheet+xml"/>`)
    }</Types>`,
  )
  zip.end()
}

type XlsxRow = (cells: readonly Cell[], place: number) => string
/** `A` to `Z`, then `AA`. */
const columnName = (place: number): string =>
  `${place >= 26 ? columnName(Math.floor(place / 26) - 1) : ''}${String.fromCharCode(65 + place % 26)}`

async function* xlsxSheet(sheets: Sheets, row: XlsxRow): AsyncGenerator<string> {
  yield `${head}<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>`
  yield* sheets.pieces(row)
  yield '</sheetData></worksheet>'
}

/** At most 31 signs, none of those that sheets may not be named by. */
const sheetName = (title: string, serial: number): string =>
  `${title.replace(/[\\/?*[\]:']/g, ' ').slice(0, 24)}${serial > 1 ? ` ${serial}` : ''}`
