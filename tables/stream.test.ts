import ExcelJS from 'exceljs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { recogniseTable, tableRows } from './read'
import { tableStream, type Cell, type TableFormat } from './stream'

const columns = ['number', 'name', 'posts']
async function bytesOf(format: TableFormat, pages: readonly (readonly Cell[])[][], rowsPerSheet?: number): Promise<Buffer> {
  const parts: Buffer[] = []
  for await (
    const part of tableStream(format, {
      title: 'Roster: HL27',
      columns,
      pages: (async function*() {
        yield* pages
      })(),
    }, rowsPerSheet)
  ) parts.push(Buffer.from(part as Buffer))
  return Buffer.concat(parts)
}
async function readBack(bytes: Buffer): Promise<string[][]> {
  const rows: string[][] = []
  for await (const row of tableRows(bytes, await recogniseTable(bytes))) rows.push([...row])
  return rows
}

describe('a table on its way out', () => {
  // Read back by exceljs, which did not write it.
  it('is a workbook that others read, texts as they are, formulas as texts, in as many sheets as it takes', async () => {
    const rows = [['HL27-1', 'Öğü <&> "x"', ['pilot-cadet', 'port-clerk']], ['HL27-2', '=1+1', []], ['HL27-3', '@sum', ['x']], ['HL27-4',
      '-5', []], ['HL27-5', 'a\u0000b\u0001c', []]]
    const workbook = new ExcelJS.Workbook()
    await workbook.xlsx.load((await bytesOf('xlsx', [rows.slice(0, 2), [], rows.slice(2)], 4)) as unknown as ArrayBuffer)
    expect(workbook.worksheets.map(sheet => [sheet.name, sheet.rowCount])).toEqual([['Roster  HL27', 4], ['Roster  HL27 2', 3]])
    const texts = workbook.worksheets.flatMap(sheet =>
      Array.from({ length: sheet.rowCount - 1 }, (_, i) => [1, 2, 3].map(column => sheet.getRow(i + 2).getCell(column).text))
    )
    expect(texts).toEqual([['HL27-1', 'Öğü <&> "x"', 'pilot-cadet;port-clerk'], ['HL27-2', "'=1+1", ''], ['HL27-3', "'@sum", 'x'], [
      'HL27-4',
      '-5',
      '',
    ], ['HL27-5', 'abc', '']])
  })

  it('keeps several texts of one cell apart in JSON Lines, and changes none', async () => {
    const text = (await bytesOf('jsonl', [[['1', '=1+1', ['a', 'b']]], [['2', '', []]]])).toString('utf8')
    expect(text.trim().split('\n').map(line => JSON.parse(line) as unknown)).toEqual([{ number: '1', name: '=1+1', posts: ['a', 'b'] }, {
      number: '2',
      name: '',
      posts: [],
    }])
  })

  it('comes back as it went, in every format that spreadsheets read, however it is cut into pages', async () => {
    const cell = fc.string({ unit: fc.constantFrom('a', 'é', '"', '<', '&', ';', ',', ' b', '7', '\u4e2d'), minLength: 1, maxLength: 6 })
      .map(text => `x${text.trim()}`)
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.array(fc.tuple(cell, cell, cell), { maxLength: 4 }), { maxLength: 5 }),
        fc.constantFrom<TableFormat>('csv', 'xlsx', 'ods'),
        async (pages, format) => {
          expect(await readBack(await bytesOf(format, pages))).toEqual([columns, ...pages.flat()])
        },
      ),
      { numRuns: 40 },
    )
  })

  it('says that it broke where a page could not be read', async () => {
    const broken = async function*() {
      yield [['1', '2', '3']]
      throw new Error('the database went away')
    }
    for (const format of ['csv', 'xlsx', 'ods', 'jsonl'] as const) {
      await expect((async () => {
        for await (const part of tableStream(format, { title: 'x', columns, pages: broken() })) void part
      })()).rejects.toThrow('the database went away')
    }
  })
})
