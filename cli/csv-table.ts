import Papa from 'papaparse'
import { InputError, textStream } from './text'

const mostFaultsShown = 50

/** Gathers everything wrong with a file, by line, up to a limit. */
export class Faults {
  private readonly found: string[] = []
  count = 0
  constructor(readonly path: string) {}

  add(line: number, fault: string): void {
    this.count += 1
    if (this.found.length < mostFaultsShown) this.found.push(`  line ${line}: ${fault}`)
  }

  words(): string {
    const more = this.count > this.found.length ? `\n  and ${this.count - this.found.length} more` : ''
    return `${this.path} has ${this.count} ${this.count === 1 ? 'fault' : 'faults'}; nothing was allocated:\n${
      this.found.join('\n')
    }${more}`
  }
}

/** A cell of the line being read, by its column, without spaces around it. */
export type Cell = (column: string) => string

/**
 * Reads a CSV file (RFC 4180; byte order mark and any line ends are taken) line by line. Lines with a wrong number of cells are
 * faults and passed over.
 *
 * @throws InputError when the file cannot be read, is empty, or its header is wrong.
 */
export async function readTable(
  faults: Faults,
  columns: string[],
  optional: string[],
  take: (cell: Cell, line: number, header: string[]) => void,
): Promise<void> {
  let header: string[] | null = null
  let places: Record<string, number> = {}
  let record: string[] = []
  let line = 1
  const cell: Cell = column => (record[places[column] ?? -1] ?? '').trim()
  const onRecord = (cells: string[], at: number): void => {
    if (cells.length === 1 && (cells[0] ?? '').trim() === '') return
    if (!header) {
      header = checkedHeader(faults.path, cells.map((name, i) => (i === 0 ? name.replace(/^\uFEFF/, '') : name).trim()), columns, optional)
      places = Object.fromEntries(header.map((name, i) => [name, i]))
    } else if (cells.length !== header.length) {
      faults.add(at, `${cells.length} cells, but the header names ${header.length} columns`)
    } else {
      record = cells
      take(cell, at, header)
    }
  }
  await eachPiece(faults.path, (records, broken) => {
    records.forEach((cells, i) => {
      const quotes = broken.get(i)
      if (quotes) faults.add(line, quotes)
      else onRecord(cells, line)
      line += 1
      for (const text of cells) if (text.includes('\n')) line += text.split('\n').length - 1
    })
  })
  if (!header) throw new InputError(`${faults.path} is empty; its first line must name the columns ${columns.join(',')}`)
}

/** The records of a file in pieces of many, with what is wrong with the quotes of a record, by its place in the piece. */
async function eachPiece(path: string, take: (records: string[][], broken: Map<number, string>) => void): Promise<void> {
  const stream = textStream(path)
  try {
    await new Promise<void>((done, failed) => {
      Papa.parse<string[]>(stream, {
        delimiter: ',',
        chunk: ({ data, errors }) => {
          try {
            take(
              data,
              new Map(errors.filter(e => e.type === 'Quotes').map(
                e => [e.row ?? 0, `the quotes do not match (${e.message.toLowerCase()})`]
              )),
            )
          } catch (error) {
            failed(error as Error)
            stream.destroy()
          }
        },
        complete: () => done(),
        error: failed,
      })
    })
  } catch (error) {
    if (error instanceof InputError) throw error
    throw new InputError(`${path} cannot be read: ${error instanceof Error ? error.message : 'unknown reason'}`)
  } finally {
    stream.destroy()
  }
}

function checkedHeader(path: string, header: string[], columns: string[], optional: string[]): string[] {
  const missing = columns.filter(name => !header.includes(name))
  const unknown = header.filter(name => !columns.includes(name) && !optional.includes(name))
  const twice = header.filter((name, i) => header.indexOf(name) !== i)
  const faults = [
    ...missing.map(name => `column "${name}" is missing`),
    ...unknown.map(name => `column "${name}" is not known`),
    ...twice.map(name => `column "${name}" stands there twice`),
  ]
  if (faults.length === 0) return header
  throw new InputError(`${path}, line 1: ${faults.join('; ')}. The columns are ${columns.join(',')}${
    optional.length > 0 ? ` and, if wanted, ${optional.join(',')}` : ''
  }`)
}
