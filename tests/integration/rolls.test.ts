import { stringify } from 'csv-stringify/sync'
import { parse } from 'csv-parse/sync'
import ExcelJS from 'exceljs'
import { eq } from 'drizzle-orm'
import { randomUUID } from 'node:crypto'
import { ZipFile } from 'yazl'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { rollFields } from '../../core/roll/columns'
import { application, auditEvent, openMatter, rollEntry, rollRow } from '../../server/database/schema'
import { saveAnswers } from '../../server/services/applications/answers'
import { enterRoll, tryRoll } from '../../server/services/rolls/pass'
import { enterRollWork, tryRollWork } from '../../server/services/rolls/work'
import { readRoll, refusedRows, setRoll, takeRoll } from '../../server/services/rolls/rolls'
import type { RollSettings } from '../../shared/rolls'
import { recogniseTable, tableRows } from '../../tables/read'
import { csvOf } from '../../tables/write'
import { openOffice, type Office } from '../support/office'
import { sampleAnswers, sampleNotice } from '../support/sample'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

const notice = sampleNotice()
const asked = ['certificateName', 'identityName', 'bornOn', 'gender', 'identityKind', 'identityNumber', 'mobile', 'email', 'postalCode',
  'address', 'nationality', 'residence', 'category', 'lowIncome', 'pwd', 'qualification', 'resultAwaited', 'board', 'passedIn',
  'resultForm', 'marksObtained', 'marksTotal', 'worked', 'attempts', 'posts', 'cities']
const titles =
  new Map(rollFields(notice, { reference: "Sender's number", file: slot => `File name: ${slot}` }).map(field => [field.id, field.title]))
const headings = ['Sl. No.', ...asked.map(id => titles.get(id) ?? id)]
const at = (id: string) => asked.indexOf(id) + 1
const letters = (n: number) => [...String(n)].map(digit => 'abcdefghij'[Number(digit)]).join('')
const person = (n: number): string[] => [`A-${n}`, ...asked.map((id) => {
  if (id === 'certificateName' || id === 'identityName') return `Orin Vel${letters(n)}`
  const answer = sampleAnswers[id] ?? ''
  return typeof answer === 'string' ? answer : answer.join('; ')
})]
type Cells = string[]
const put = (id: string, cell: string) => (row: Cells) => row.map((old, i) => i === (id === 'reference' ? 0 : at(id)) ? cell : old)
const noGaps = { order: null, gaps: 'enter' as const, charset: null }

/** Kinds of damage and the code that names each. Common practice, no source: what spreadsheets and hands do to such tables. */
const damages: [string, string, (row: Cells) => Cells][] = [
  ['a day that does not exist', 'roll.no-date', put('bornOn', '30 Feb 2004')],
  ['a day or a month first', 'roll.two-dates', put('bornOn', '03/04/2004')],
  ['a year of two digits', 'roll.no-date', put('bornOn', '15.06.04')],
  ['a day count of a spreadsheet', 'roll.no-date', put('bornOn', '38153')],
  ['a day in the future', 'sheet.future', put('bornOn', '2031-06-15')],
  ['text for a day', 'roll.no-date', put('bornOn', 'not known')],
  ['a number shortened', 'roll.shortened', put('mobile', '5.5501E+09')],
  ['a telephone number too short', 'sheet.digits', put('mobile', '55501')],
  ['a leading zero lost', 'sheet.digits', put('mobile', '550100042')],
  ['letters in a telephone number', 'sheet.digits', put('mobile', '55501OOO42')],
  ['two telephone numbers', 'sheet.digits', put('mobile', '5550100042/5550100043')],
  ['no mail address', 'sheet.email', put('email', 'tavirel at post.example')],
  ['two mail addresses', 'sheet.email', put('email', 'a@post.example, b@post.example')],
  ['a mail address with a blank', 'sheet.email', put('email', 'tavirel osk@post.example')],
  ['an unknown category', 'roll.no-option', put('category', 'OBC-X')],
  ['a category misspelt', 'roll.no-option', put('category', 'Outer Ilses')],
  ['an unknown gender', 'roll.no-option', put('gender', '3')],
  ["a formula's fault", 'roll.no-option', put('board', '#N/A')],
  ['yes for an option', 'roll.no-option', put('residence', 'yes')],
  ['an unknown post', 'roll.no-option', put('posts', 'Pilot; Admiral')],
  ['a post twice', 'sheet.double', put('posts', 'pilot-cadet; Pilot cadet')],
  ['a post that is shut', 'roll.post-shut', put('posts', notice.posts.map(one => one.id).join(';'))],
  ['an unknown city', 'roll.no-option', put('cities', 'skarnholm; Atlantis; belmarrow')],
  ['a city twice', 'sheet.double', put('cities', 'skarnholm; ottrevik; skarnholm')],
  ['too many cities', 'sheet.listLength', put('cities', notice.cities.slice(0, 12).map(one => one.id).join(';'))],
  ['a postal code of nowhere', 'sheet.postalCode', put('postalCode', '99999')],
  ['a postal code too short', 'sheet.digits', put('postalCode', '1104')],
  ['digits in a name', 'sheet.name', put('certificateName', 'Orin 4 Vel')],
  ['a sign that cannot be read', 'roll.signs', put('certificateName', 'Or\uFFFDn Vel')],
  ['a control sign', 'roll.signs', put('address', '4 Beacon\u0007 Street')],
  ['marks above the total', 'sheet.marksAbove', put('marksObtained', '512')],
  ['marks in words', 'sheet.decimal', put('marksObtained', 'four hundred')],
  ['marks with a slash', 'sheet.decimal', put('marksObtained', '412/500')],
  ['a negative number', 'sheet.number', put('attempts', '-1')],
  ['a number too large', 'sheet.number', put('attempts', '4000')],
  ['a number with a point', 'sheet.number', put('attempts', '0.5')],
  ['a year for a number out of range', 'sheet.number', put('passedIn', '22')],
  ['somebody too old', 'roll.post-shut', put('bornOn', '1950-06-15')],
  ['too few marks', 'roll.post-shut', put('marksObtained', '120')],
  ['a cell too many', 'roll.long', row => [...row.slice(0, 10), 'Beacon Street', ...row.slice(10)]],
  ['nothing that says who it is', 'roll.no-key', row => put('bornOn', '')(put('reference', '')(row))],
  ['a text too long', 'sheet.length', put('address', 'x'.repeat(900))],
]

const goOn = async () => true
async function collected<T>(from: AsyncIterable<T>): Promise<T[]> {
  const all: T[] = []
  for await (const one of from) all.push(one)
  return all
}
async function taken(bytes: Buffer, sender = 'Harbour School of Vesk') {
  return (await takeRoll(office.as(), office.cycle, { sender, name: 'roll.csv' }, bytes)).id
}
const csv = (rows: readonly Cells[]) => Buffer.from(stringify([headings, ...rows]))
const look = (id: string, outcome: 'refused' | 'gaps' = 'refused') => readRoll(office.as(), id, { outcome, after: 0, limit: 500 })

describe('a roll of 5,000 rows with every kind of damage', () => {
  const rows = Array.from({ length: 5000 }, (_, i) => {
    const damage = i % 100 === 37 ? damages[(i - 37) / 100] : undefined
    return damage ? damage[2](person(i)) : person(i)
  })
  const damaged = damages.map(([, code], i) => ({ row: i * 100 + 38, code }))

  it('names every fault in its row, enters all others once, and gives the refused ones back to be mended', async () => {
    expect(damages.length).toBeGreaterThanOrEqual(40)
    const id = await taken(csv([...rows, person(4999), person(0)]))
    const totals = await tryRoll(office.as(), id, goOn)
    const { found } = await look(id)
    for (const { row, code } of damaged) {
      expect([row, found.find(one => one.row === row)?.findings.map(one => one.code)]).toEqual([row, expect.arrayContaining([code])])
    }
    expect(totals).toEqual({ rows: 5002, made: 5000 - damages.length, changed: 0, repeated: 0, refused: damages.length + 2, gaps: 0 })
    expect(found.filter(one => one.row > 5000).map(one => [one.row, one.findings[0]?.code, one.findings[0]?.parameters.row])).toEqual([[
      5001,
      'roll.twice',
      5000,
    ], [5002, 'roll.twice', 1]])
    const before = await office.db.$count(application)
    // The process dies half-way; the next one goes on.
    let told = 0
    await expect(enterRoll(office.as(), id, async () => (told += 1) < 4, null)).rejects.toMatchObject({ problem: { code: 'roll.stopped' } })
    expect(await office.db.$count(application)).toBeGreaterThan(before)
    expect(await enterRoll(office.as(), id, goOn, null)).toMatchObject({ refused: damages.length + 2 })
    expect(await office.db.$count(application) - before).toBe(5000 - damages.length)
    expect(await office.db.$count(rollEntry)).toBe(5000 - damages.length)
    const back = parse((await collected(await refusedRows(office.as(), id))).join(''), { bom: true, relax_column_count: true })
    expect(back.length).toBe(damages.length + 3)
    expect(back[0]?.slice(-2)).toEqual(['Row', 'Reasons'])
    expect(back.slice(1).every(row => (row.at(-1) ?? '').length > 10)).toBe(true)
    const mended = await taken(csv(damaged.map(({ row }) => person(row - 1))))
    await tryRoll(office.as(), mended, goOn)
    expect(await enterRoll(office.as(), mended, goOn, null)).toMatchObject({ made: damages.length, refused: 0 })
    expect(await office.db.$count(application) - before).toBe(5000)
  })
})

describe('a roll', () => {
  it('makes drafts like those of the sheet: number, answers with their history, log and open matters', async () => {
    const id = await taken(csv([person(7001)]), 'One School')
    await tryRoll(office.as(), id, goOn)
    await enterRoll(office.as(), id, goOn, null)
    const [entry] = await office.db.select().from(rollEntry).where(eq(rollEntry.sender, 'One School'))
    const dossier = await office.dossier(entry?.applicationId ?? '')
    expect(dossier.answers).toEqual({ ...sampleAnswers, certificateName: 'Orin Velhaab', identityName: 'Orin Velhaab' })
    expect(dossier.tracks.form).toBe('drafting')
    const matters = await office.db.select({ kind: openMatter.kind }).from(openMatter).where(eq(openMatter.applicationId, dossier.id))
    expect(matters.map(row => row.kind)).toContain('file-missing')
    expect(await office.db.select({ act: auditEvent.act, after: auditEvent.after }).from(auditEvent)
      .where(eq(auditEvent.subject, dossier.id))).toEqual([{
        act: 'begin',
        after: expect.objectContaining({ sender: 'One School', roll: id, row: 1, number: dossier.number }),
      }])
    // Answered by its roll, it is no empty draft that could be thrown away.
    expect(dossier.acts.find(one => one.act === 'delete-draft')?.refusal?.code).toBe('act.not-empty')
    await saveAnswers(office.as(), dossier.id, { revision: 1, changes: { address: '5 Beacon Street' } })
  })

  it('sent again changes what differs, and nothing that somebody has worked on or handed in since', async () => {
    const [first, second] = [person(7100), person(7101)]
    const sent = async (rows: Cells[]) => {
      const id = await taken(csv(rows), 'Again School')
      await tryRoll(office.as(), id, goOn)
      return { id, totals: await enterRoll(office.as(), id, goOn, null) }
    }
    await sent([first, second])
    const moved = put('address', '9 Quay Row')
    expect((await sent([moved(first), second])).totals).toMatchObject({ changed: 1, repeated: 1, made: 0 })
    const entries = await office.db.select().from(rollEntry).where(eq(rollEntry.sender, 'Again School'))
    const one = entries.find(row => row.key === 'number A-7100')
    expect((await office.dossier(one?.applicationId ?? '')).answers.address).toBe('9 Quay Row')
    await saveAnswers(office.as(), one?.applicationId ?? '', { revision: 2, changes: { address: '10 Quay Row' } })
    const third = await sent([put('address', '11 Quay Row')(first), second])
    expect(third.totals).toMatchObject({ refused: 1, repeated: 1 })
    expect((await look(third.id)).found[0]?.findings[0]?.code).toBe('roll.changed-since')
  })

  it("without a sender's number goes by name and day of birth, and a roll that says neither is not tried", async () => {
    const id = await taken(csv([person(7200)].map(row => row.map((cell, i) => i === 0 ? '' : cell))), 'No Numbers')
    const detail = await look(id)
    await setRoll(office.as(), id, { ...noGaps, columns: detail.columns.map(field => field === 'reference' ? null : field) })
    expect(await tryRoll(office.as(), id, goOn)).toMatchObject({ made: 1 })
    await expect(setRoll(office.as(), id, { ...noGaps, columns: ['bornOn', 'bornOn'] })).rejects.toMatchObject({
      problem: { code: 'roll.field-twice' },
    })
    await expect(setRoll(office.as(), id, { ...noGaps, columns: ['height'] })).rejects.toMatchObject({
      problem: { code: 'roll.field-unknown' },
    })
  })

  it("reads a sender's own words once somebody has said what they mean, in every row, and several columns of choices as one list", async () => {
    const sent = [0, 1, 2].map(n => put('gender', n < 2 ? 'F' : 'constructor')(person(7400 + n)))
    const city = at('cities')
    const apart = sent.map(row => row.flatMap((cell, i) => i === city ? ['Ottrevik', 'Skarnholm'] : [cell]))
    const heads = headings.flatMap((heading, i) => i === city ? ['City 1', 'City 2'] : [heading])
    const id = (await takeRoll(office.as(), 'HL27', { sender: 'Own words', name: 'own.csv' }, Buffer.from(csvOf([heads, ...apart])))).id
    expect(await tryRoll(office.as(), id, goOn)).toMatchObject({ made: 0, refused: 3 })
    const { unknown, columns } = await look(id)
    expect(unknown.map(one => [one.field, one.words])).toEqual([['gender', [{ word: 'F', rows: 2, means: null }, {
      word: 'constructor',
      rows: 1,
      means: null,
    }]]])
    const said = (words: RollSettings['words']) => setRoll(office.as(), id, { ...noGaps, columns, words })
    await expect(said({ gender: { F: 'nobody' } })).rejects.toMatchObject({ problem: { code: 'roll.field-unknown' } })
    expect((await said({ gender: { F: 'woman' } })).unknown[0]?.words).toEqual([{ word: 'F', rows: 0, means: 'woman' }])
    expect(await tryRoll(office.as(), id, goOn)).toMatchObject({ made: 2, refused: 1 })
    await said({ gender: { F: 'woman', constructor: 'woman' } })
    await tryRoll(office.as(), id, goOn)
    expect(await enterRoll(office.as(), id, goOn, null)).toMatchObject({ made: 3, refused: 0 })
    const [entry] = await office.db.select().from(rollEntry).where(eq(rollEntry.sender, 'Own words'))
    expect((await office.dossier(entry?.applicationId ?? '')).answers).toMatchObject({ gender: 'woman', cities: ['ottrevik', 'skarnholm'] })
  })

  it('takes gaps for drafts or refuses them, as it is said', async () => {
    const id = await taken(csv([put('board', '')(person(7300))]), 'Gaps')
    expect(await tryRoll(office.as(), id, goOn)).toMatchObject({ made: 1, gaps: 1, refused: 0 })
    expect((await look(id, 'gaps')).found[0]?.findings[0]).toMatchObject({ code: 'sheet.missing', verdict: 'unsure', about: 'board' })
    await setRoll(office.as(), id, { ...noGaps, gaps: 'refuse', columns: (await look(id)).columns })
    expect(await tryRoll(office.as(), id, goOn)).toMatchObject({ made: 0, refused: 1 })
    expect(await office.db.$count(rollRow, eq(rollRow.rollId, id))).toBe(1)
  })
})

describe('a roll between others', () => {
  it('below blank rows keeps its numbering, and is read anew in another character set', async () => {
    const bytes = Buffer.from(
      `\r\n\r\n${
        stringify([['Sl. No.', 'Name', 'Born'], ['1', 'Søren Ærø', 'nobody knows'], ['', '', ''], ['3', 'Maro Quil', '31 Feb 2001']], {
          delimiter: ';',
        })
      }`,
      'latin1',
    )
    const id = await taken(bytes, 'Blank Rows')
    const detail = await look(id)
    expect(detail).toMatchObject({ rows: 2, headings: ['Sl. No.', 'Name', 'Born'], delimiter: ';' })
    await tryRoll(office.as(), id, goOn)
    expect((await look(id)).found.map(row => [row.row, row.name])).toEqual([[1, 'Søren Ærø'], [3, 'Maro Quil']])
    const { samples } = await setRoll(office.as(), id, { ...noGaps, columns: detail.columns, charset: 'windows-1251' })
    expect(samples[0]?.[1]).toBe('Sшren Жrш')
  })

  it('entered by two processes at once makes each person once', async () => {
    const id = await taken(csv(Array.from({ length: 40 }, (_, i) => person(7400 + i))), 'Two At Once')
    await tryRoll(office.as(), id, goOn)
    await Promise
      .all([enterRoll(office.as(), id, goOn, null), enterRoll(office.second(), id, goOn, null)].map(one => one.catch(() => null)))
    expect(await office.db.$count(rollEntry, eq(rollEntry.sender, 'Two At Once'))).toBe(40)
    const numbers = await office.db.select({ number: application.number }).from(application)
    expect(new Set(numbers.map(row => row.number)).size).toBe(numbers.length)
  })

  it('is entered once it was tried, after the close only with a reason, and by nobody who may not', async () => {
    const id = await taken(csv([person(7500)]), 'After The Close')
    const open = (work: typeof enterRollWork | typeof tryRollWork, reason?: string) =>
      office.db.transaction(async tx =>
        work.open?.(tx, await office.as().authorise('rolls.enter'), office.cycle, randomUUID(), { roll: id, reason })
      )
    await expect(open(enterRollWork)).rejects.toMatchObject({ problem: { code: 'roll.not-tried' } })
    await open(tryRollWork)
    await tryRoll(office.as(), id, goOn)
    const before = office.now
    office.now = new Date(Date.parse(notice.keyDates.closes) + 1000)
    await expect(open(enterRollWork)).rejects.toMatchObject({ problem: { code: 'dates.closed', data: { outsideDates: true } } })
    await open(enterRollWork, 'The roll lay in the post for a week.')
    expect((await office.db.select().from(auditEvent).where(eq(auditEvent.act, 'enter-roll'))).at(-1)).toMatchObject({
      outsideDates: true,
      reason: 'The roll lay in the post for a week.',
    })
    office.now = before
    await expect(tryRoll(office.as('scrutineer'), id, goOn)).rejects.toMatchObject({ problem: { kind: 'not-allowed' } })
  })
})

describe('a table', () => {
  const rows = [['Name', 'Born', 'Note'], ['Åsa Dūle', '2004-06-15', 'one, "two"'], [], ['سارة', '1999-12-31', '=1+1']]
  const read = async (bytes: Buffer) => collected(tableRows(bytes, await recogniseTable(bytes)))
  const full = (table: string[][]) => table.filter(row => row.some(cell => cell !== ''))

  it('is read alike from CSV in any delimiter, character set and end of line', async () => {
    for (const delimiter of [',', ';', '\t', '|']) {
      for (const record_delimiter of ['\n', '\r\n', '\r']) {
        const text = stringify(rows, { delimiter, record_delimiter })
        for (const bytes of [Buffer.from(text), Buffer.from(`\uFEFF${text}`), Buffer.from(`\uFEFF${text}`, 'utf16le')]) {
          expect(full(await read(bytes))).toEqual(full(rows))
        }
      }
    }
    expect(full(await read(Buffer.from(stringify([['Name', 'Ort'], ['Søren Ærø', 'Århus']]), 'latin1')))).toEqual([['Name', 'Ort'], [
      'Søren Ærø',
      'Århus',
    ]])
  })

  it('is read from XLSX and ODS as people see it', async () => {
    const book = new ExcelJS.Workbook()
    const sheet = book.addWorksheet('People')
    sheet.addRow(rows[0])
    sheet.addRow(['Åsa Dūle', new Date('2004-06-15'), { richText: [{ text: 'one, ' }, { text: '"two"' }] }])
    sheet.addRow([])
    sheet.addRow(['سارة', { formula: 'DATE(1999,12,31)', result: 36525 }, '=1+1']).getCell(2).numFmt = 'dd/mm/yyyy'
    expect(full(await read(Buffer.from(await book.xlsx.writeBuffer())))).toEqual(full(rows))
    expect(full(await read(await ods(`<table:table-row>${
      cells(rows[0] ?? [])
    }</table:table-row><table:table-row><table:table-cell><text:p>Åsa Dūle</text:p></table:table-cell>
      <table:table-cell office:value-type="date" office:date-value="2004-06-15"><text:p>15/06/04</text:p></table:table-cell>${
      cells(['one, "two"'])
    }</table:table-row>
      <table:table-row table:number-rows-repeated="3"><table:table-cell table:number-columns-repeated="1024"/></table:table-row>
      <table:table-row>${cells(rows[3] ?? [])}<table:table-cell table:number-columns-repeated="1021"/></table:table-row>
      <table:table-row table:number-rows-repeated="1048000"><table:table-cell table:number-columns-repeated="1024"/></table:table-row>`))))
      .toEqual(full(rows))
  })

  it('that is none, broken, or grows without end is refused in words', async () => {
    const codes: [string, Buffer][] = [
      ['table.empty', Buffer.alloc(0)],
      ['table.unknown', Buffer.from('%PDF-1.7 and more')],
      ['table.unknown', Buffer.from([0xD0, 0xCF, 0x11, 0xE0, 0, 0, 1, 2])],
      ['table.csv', Buffer.from('a,b\n"open,2\n')],
      ['table.csv', Buffer.from('a,b\nx"y",2\n')],
      ['table.packed', Buffer.concat([Buffer.from('PK\u0003\u0004'), Buffer.alloc(40, 7)])],
      ['table.broken', await ods('<table:table-row><table:table-cell>')],
      ['table.broken', await ods('', '<!DOCTYPE x [<!ENTITY a "aaaa">]>')],
    ]
    for (const [code, bytes] of codes) await expect(read(bytes), code).rejects.toMatchObject({ problem: { code } })
  })

  it('is written so that no spreadsheet runs what stands in it, and numbers stay numbers', () => {
    expect(parse(csvOf([['=1+1', '+3', '-4.5', '@SUM(A1)', '+49 30 1', 'a=b', '\tx']]))[0]).toEqual(["'=1+1", '+3', '-4.5', "'@SUM(A1)",
      "'+49 30 1", 'a=b', "'\tx"])
  })
})

const escaped = (text: string) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;')
const cells = (row: readonly string[]) =>
  row.map(cell => `<table:table-cell office:value-type="string"><text:p>${escaped(cell)}</text:p></table:table-cell>`).join('')
async function ods(body: string, before = ''): Promise<Buffer> {
  const zip = new ZipFile()
  zip.addBuffer(Buffer.from('application/vnd.oasis.opendocument.spreadsheet'), 'mimetype', { compress: false })
  zip.addBuffer(
    Buffer
      .from(`<?xml version="1.0"?>${before}<office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x"><office:body><office:spreadsheet><table:table>${body}</table:table></office:spreadsheet></office:body></office:document-content>`),
    'content.xml',
  )
  zip.end()
  return Buffer.concat(await collected(zip.outputStream as AsyncIterable<Buffer>))
}
