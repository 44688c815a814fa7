import { SaxesParser, type SaxesTagPlain } from 'saxes'
import { refusal } from '../shared/refusal'
import { zipEntries } from './zip'

/** Rows that one row of the file may stand for when it says that it is repeated; sheets are filled up to their end with empty ones. */
const repeatsAtMost = 10_000

/** The rows of the first sheet of an ODS (ISO/IEC 26300-1, chapter 9), cell by cell as texts; days as ISO 8601. */
export async function* odsRows(bytes: Buffer): AsyncGenerator<string[]> {
  for await (const { entry, unpack } of zipEntries(bytes)) {
    if (entry.fileName !== 'content.xml') continue
    const sheet = new Sheet()
    const decoder = new TextDecoder()
    for await (const piece of unpack()) {
      sheet.write(decoder.decode(piece, { stream: true }))
      yield* sheet.take()
      if (sheet.isOver) return
    }
    return
  }
  throw refusal('table.broken')
}

class Sheet {
  readonly #parser = new SaxesParser()
  #rows: string[][] = []
  #row: string[] = []
  #cell: { text: string, value: string | null, repeats: number } | null = null
  #rowRepeats = 1
  #depth = 0
  #empty = 0
  isOver = false

  constructor() {
    this.#parser.on('opentag', tag => this.#open(tag))
    this.#parser.on('closetag', tag => this.#close(tag.name))
    this.#parser.on('text', (text) => {
      if (this.#cell && this.#depth > 0) this.#cell.text += text
    })
    this.#parser.on('error', () => {
      throw refusal('table.broken')
    })
    // Entities of its own would let a small file grow without end.
    this.#parser.on('doctype', () => {
      throw refusal('table.broken')
    })
  }

  write(text: string): void {
    if (!this.isOver) this.#parser.write(text)
  }

  take(): string[][] {
    const rows = this.#rows
    this.#rows = []
    return rows
  }

  #open({ name, attributes }: SaxesTagPlain): void {
    if (this.isOver) return
    if (name === 'table:table-row') {
      this.#row = []
      this.#rowRepeats = Number(attributes['table:number-rows-repeated'] ?? 1)
    } else if (name === 'table:table-cell' || name === 'table:covered-table-cell') {
      const value = attributes['office:date-value']
        ?? (attributes['office:value-type'] === 'float' ? attributes['office:value'] : undefined)
      this.#cell = {
        text: '',
        value: value?.replace(/T00:00:00(\.0+)?$/, '') ?? null,
        repeats: Number(attributes['table:number-columns-repeated'] ?? 1),
      }
    } else if (name === 'text:p') {
      if (this.#cell && this.#cell.text !== '') this.#cell.text += '\n'
      this.#depth += 1
    } else if (name === 'text:s' && this.#cell) this.#cell.text += ' '.repeat(Math.min(100, Number(attributes['text:c'] ?? 1)))
  }

  #close(name: string): void {
    if (this.isOver) return
    if (name === 'text:p') this.#depth -= 1
    else if (name === 'table:table') this.isOver = true
    else if ((name === 'table:table-cell' || name === 'table:covered-table-cell') && this.#cell) this.#endCell(this.#cell)
    else if (name === 'table:table-row') this.#endRow()
  }

  #endCell({ text, value, repeats }: { text: string, value: string | null, repeats: number }): void {
    const shown = value ?? text
    this.#cell = null
    // Empty cells up to the edge of the sheet are none.
    if (shown === '' && repeats > 400) return
    for (let i = 0; i < Math.min(repeats, 400); i += 1) this.#row.push(shown)
  }

  #endRow(): void {
    while (this.#row.at(-1) === '') this.#row.pop()
    if (this.#row.length === 0) {
      this.#empty += Math.min(this.#rowRepeats, repeatsAtMost)
      return
    }
    // Empty rows count only where something comes after them.
    for (; this.#empty > 0; this.#empty -= 1) this.#rows.push([])
    for (let i = 0; i < Math.min(this.#rowRepeats, repeatsAtMost); i += 1) this.#rows.push([...this.#row])
  }
}
