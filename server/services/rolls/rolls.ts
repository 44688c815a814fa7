import { and, asc, count, desc, eq, gt, inArray, isNull, like, ne, type SQL } from 'drizzle-orm'
import {
  headingAmong,
  headingPlace,
  isListField,
  listOf,
  referenceField,
  rollFields,
  suggestColumns,
  type RollField,
} from '../../../core/roll/columns'
import type { RollWords } from '../../../core/roll/row'
import type { Notice } from '../../../core/notice/schema'
import { formatMessage } from '../../../core/words/message'
import { charsets } from '../../../shared/charsets'
import type { RollDetail, RollQuery, RollRow, RollSettings, RollUnknown, RollUpload } from '../../../shared/rolls'
import { refusal } from '../../../shared/refusal'
import { recogniseTable, tableRows, type TableKind } from '../../../tables/read'
import { csvOf } from '../../../tables/write'
import type { Executor } from '../../database/client'
import { application, job, roll, rollEntry, rollRow } from '../../database/schema'
import { log, type Caller, type Context } from '../context'
import { bringFile, keepFile, readFile } from '../files/bytes'
import { currentNotice } from '../notice/notices'
import { namesOf, type NameOf } from '../people/names'
import { filesView } from './files'

/** Nominal rolls: the file as it was sent, what its columns mean, and what was found in its rows. */

type Row = typeof roll.$inferSelect
const samplesAtMost = 3
const shownAtMost = 50

/** Fields that a roll of this notice may fill, with the sender's number called as the language calls it. */
export const fieldsOf = (context: Pick<Context, 'language'>, notice: Notice): RollField[] =>
  rollFields(notice, {
    reference: context.language.screens.rolls.reference,
    file: slot => formatMessage(context.language.locale, context.language.screens.rolls.fileOf, { slot }),
  })

/**
 * Takes a roll in: the file is kept, its heading read and what the columns mean suggested. The same file again from the same sender is the
 * roll that is there.
 */
export async function takeRoll(caller: Caller, cycle: string, { sender, name }: RollUpload, bytes: Buffer): Promise<RollRow> {
  const context = await caller.authorise('rolls.enter', { cycle })
  const recognised = await recogniseTable(bytes)
  const { notice } = await currentNotice(context.db, cycle)
  const above = headingPlace(await firstRows(bytes, recognised, headingAmong), fieldsOf(context, notice))
  const kind = above > 0 ? { ...recognised, above } : recognised
  const [headings = [], ...samples] = await firstRows(bytes, kind)
  let rows = 0
  for await (const { row } of rollRows(bytes, kind)) if (row > 0) rows += 1
  if (rows === 0) throw refusal('roll.no-rows')
  const columns = suggestColumns(headings, fieldsOf(context, notice)).map(one => one.field)
  const brought = await bringFile(context.db, bytes)
  const row = await context.db.transaction(async (tx) => {
    const sha256 = await keepFile(tx, brought)
    const [known] = await tx.select().from(roll).where(and(eq(roll.cycle, cycle), eq(roll.sender, sender), eq(roll.sha256, sha256)))
    if (known) return known
    const [made] = await tx.insert(roll).values({
      id: context.newId(),
      cycle,
      sender,
      name,
      sha256,
      kind,
      headings,
      samples,
      rows,
      columns,
      options: { order: null, gaps: 'enter' },
      state: 'read',
      by: context.principal.id,
      at: context.now(),
    }).returning()
    if (!made) throw refusal('roll.unknown')
    await log(tx, context, 'read-roll', { subject: { kind: 'cycle', id: cycle }, cycle, after: { sender, name, rows, sha256 } })
    return made
  })
  return rollView(row, await namesOf(context.db, [row.by]))
}

/**
 * The rows of a roll that say something, the heading as row 0 and those below counted as they stand in the file. Titles above the heading
 * are passed by.
 */
export async function* rollRows(bytes: Buffer, kind: TableKind): AsyncGenerator<{ row: number, cells: string[] }> {
  let row = -1
  let above = kind.above ?? 0
  for await (const cells of tableRows(bytes, kind)) {
    const isBlank = cells.every(cell => cell.trim() === '')
    if (row < 0 && (isBlank || above > 0)) {
      if (!isBlank) above -= 1
      continue
    }
    row += 1
    if (!isBlank) yield { row, cells }
  }
}

async function firstRows(bytes: Buffer, kind: TableKind, atMost = samplesAtMost): Promise<string[][]> {
  const rows: string[][] = []
  for await (const { cells } of rollRows(bytes, kind)) {
    rows.push(cells.map(cell => cell.slice(0, 200)))
    if (rows.length > atMost) break
  }
  return rows
}

const rollView = (row: Row, name: NameOf): RollRow => ({
  id: row.id,
  sender: row.sender,
  name: row.name,
  ...row.kind,
  rows: row.rows,
  state: row.state,
  totals: row.totals,
  by: name(row.by),
  at: row.at.toISOString(),
})

/** The rolls of a cycle, the newest first. */
export async function listRolls(caller: Caller, cycle: string): Promise<RollRow[]> {
  const { db } = await caller.authorise('rolls.enter', { cycle })
  const rows = await db.select().from(roll).where(eq(roll.cycle, cycle)).orderBy(desc(roll.at)).limit(shownAtMost)
  const name = await namesOf(db, rows.map(row => row.by))
  return rows.map(row => rollView(row, name))
}

/** Whose rolls: the same person from the same sender is one application. */
export interface Sender {
  cycle: string
  sender: string
}

/** What a sender's rolls have brought and is a draft still. Whoever has an account for it declares for themself. */
export const isDraftOf = ({ cycle, sender }: Sender): SQL | undefined =>
  and(eq(rollEntry.cycle, cycle), eq(rollEntry.sender, sender), eq(application.form, 'drafting'), isNull(application.ownerId))

export const drafts = (db: Executor) =>
  db.select({ key: rollEntry.key, row: application }).from(rollEntry).innerJoin(application, eq(application.id, rollEntry.applicationId))

/** How many they are. */
export async function countDrafts(db: Executor, of: Sender): Promise<number> {
  const [row] = await db.select({ n: count() }).from(rollEntry).innerJoin(application, eq(application.id, rollEntry.applicationId))
    .where(isDraftOf(of))
  return row?.n ?? 0
}

export async function rollOf(db: Executor, id: string): Promise<Row> {
  const [row] = await db.select().from(roll).where(eq(roll.id, id))
  if (!row) throw refusal('roll.unknown')
  return row
}

/** Holds a roll that nobody works on. `own` is the job that asks. */
export async function idleRoll(tx: Executor, id: string, own: string | null = null): Promise<Row> {
  const [row] = await tx.select().from(roll).where(eq(roll.id, id)).for('update')
  if (!row) throw refusal('roll.unknown')
  const [live] = await tx.select({ id: job.id }).from(job).where(and(
    eq(job.cycle, row.cycle),
    inArray(job.kind, ['try-roll', 'enter-roll', 'hand-in-roll']),
    inArray(job.state, ['waiting', 'running']),
    like(job.request, `%${id}%`),
    own ? ne(job.id, own) : undefined,
  )).limit(1)
  if (live) throw refusal('roll.under-way')
  return row
}

/** One roll with a page of the rows that somebody has to look at. */
export async function readRoll(caller: Caller, id: string, query: RollQuery): Promise<RollDetail> {
  const context = await caller.authorise('rolls.enter')
  const row = await rollOf(context.db, id)
  const { notice } = await currentNotice(context.db, row.cycle)
  const found = await context.db.select().from(rollRow)
    .where(and(eq(rollRow.rollId, id), gt(rollRow.row, query.after), (query.outcome === 'refused' ? eq : ne)(rollRow.outcome, 'refused')))
    .orderBy(asc(rollRow.row)).limit(query.limit + 1)
  const page = found.slice(0, query.limit)
  const fields = fieldsOf(context, notice)
  return {
    ...rollView(row, await namesOf(context.db, [row.by])),
    headings: row.headings,
    samples: row.samples,
    columns: row.columns,
    options: { words: {}, ...row.options },
    unknown: unknownIn(notice, row, fields),
    drafts: await countDrafts(context.db, row),
    fields: fields.map(field => ({ id: field.id, title: field.title, isList: isListField(field) })),
    found: page.map(({ row: number, outcome, reference, name, findings }) => ({ row: number, outcome, reference, name, findings })),
    next: found.length > query.limit ? page.at(-1)?.row ?? null : null,
    files: await filesView(context.db, id),
  }
}

/** Words that the last pass could not read, the most frequent first, and those that somebody has said the meaning of. */
function unknownIn(notice: Notice, { totals, options }: Row, fields: readonly RollField[]): RollUnknown[] {
  return fields.flatMap((field) => {
    const [counts, means] = [totals?.words?.[field.id] ?? {}, options.words?.[field.id] ?? {}]
    const open = Object.entries(counts).map(([word, rows]) => ({ word, rows, means: null }))
    const said = Object.entries(means).map(([word, id]) => ({ word, rows: 0, means: id }))
    const words = [...open.sort((a, b) => b.rows - a.rows), ...said]
    return words.length === 0
      ? []
      : [{ field: field.id, title: field.title, words, members: listOf(notice, field).map(({ id, title }) => ({ id, title })) }]
  })
}

/** @throws ProblemError `roll.field-unknown` for a field or a member of it that is none. */
function checkWords(notice: Notice, fields: ReadonlyMap<string, RollField>, words: RollWords): void {
  for (const [id, said] of Object.entries(words)) {
    const field = fields.get(id)
    if (!field) throw refusal('roll.field-unknown', { field: id })
    const members = new Set(['', ...listOf(notice, field).map(one => one.id)])
    const strange = Object.values(said).find(member => !members.has(member))
    if (strange !== undefined) throw refusal('roll.field-unknown', { field: `${field.title}: ${strange}` })
  }
}

/** Says what the columns mean and how the file is read. What was tried before holds no longer. */
export async function setRoll(
  caller: Caller,
  id: string,
  { columns, order, gaps, charset, words }: RollSettings,
): Promise<RollDetail> {
  const context = await caller.authorise('rolls.enter')
  await context.db.transaction(async (tx) => {
    const row = await idleRoll(tx, id)
    const { notice } = await currentNotice(tx, row.cycle)
    const fields = new Map(fieldsOf(context, notice).map(field => [field.id, field]))
    const chosen = row.headings.map((_, place) => columns[place] ?? null)
    const known = chosen.filter(field => field !== null)
    for (const [i, field] of known.entries()) {
      const found = fields.get(field)
      if (!found) throw refusal('roll.field-unknown', { field })
      if (known.indexOf(field) !== i && !isListField(found)) throw refusal('roll.field-twice', { field: found.title })
    }
    if (words) checkWords(notice, fields, words)
    const kind = row.kind.format === 'csv' && charset !== null && charsets.some(one => one === charset)
      ? { ...row.kind, charset }
      : row.kind
    // Read in another character set, heading and samples read differently, too.
    const [headings = row.headings, ...samples] = kind.charset === row.kind.charset
      ? [row.headings, ...row.samples]
      : await firstRows(await readFile(tx, row.sha256), kind)
    await tx.update(roll).set({
      columns: chosen,
      options: { order, gaps, words: words ?? row.options.words ?? {} },
      kind,
      headings,
      samples,
      state: 'read',
      totals: null,
    }).where(eq(roll.id, id))
    await tx.delete(rollRow).where(eq(rollRow.rollId, id))
  })
  return readRoll(caller, id, { outcome: 'refused', after: 0, limit: 100 })
}

/** Whether the chosen columns tell people apart. */
export const tellsApart = (columns: readonly (string | null)[]): boolean =>
  columns.includes(referenceField) || (columns.includes('certificateName') && columns.includes('bornOn'))

/** The refused rows as they were sent, with their number and the reasons behind: to be mended and sent again. */
export async function refusedRows(caller: Caller, id: string): Promise<AsyncGenerator<string>> {
  const context = await caller.authorise('rolls.enter')
  return refusedPages(context, await rollOf(context.db, id))
}

async function* refusedPages(context: Context, row: Row): AsyncGenerator<string> {
  const { rollFindingWords } = context.language.rolls
  const { rowNumber, reasons } = context.language.screens.rolls
  // Spreadsheets take a file for UTF-8 by its mark.
  yield `\uFEFF${csvOf([[...row.headings, rowNumber, reasons]])}`
  const bytes = await readFile(context.db, row.sha256)
  let batch: { row: number, cells: string[] }[] = []
  const worded = async () => {
    const found = batch.length === 0
      ? []
      : await context.db.select().from(rollRow)
        .where(and(eq(rollRow.rollId, row.id), eq(rollRow.outcome, 'refused'), inArray(rollRow.row, batch.map(one => one.row))))
    const why =
      new Map(found.map(
        one => [one.row,
          one.findings.map(rollFindingWords).map(words => [words.title, words.advice].filter(Boolean).join('. ')).join(' | ')]
      ))
    return csvOf(batch.filter(one => why.has(one.row)).map(
      one => [...row.headings.map((_, i) => one.cells[i] ?? ''), String(one.row), why.get(one.row) ?? '']
    ))
  }
  for await (const one of rollRows(bytes, row.kind)) {
    if (one.row > 0) batch.push(one)
    if (batch.length < 1000) continue
    yield await worded()
    batch = []
  }
  yield await worded()
}
