import { and, eq, inArray } from 'drizzle-orm'
import { dateInZone } from '../../../core/calendar/zone'
import { textAnswer, type Answers } from '../../../core/application/answers'
import { isEqual } from '../../../core/notice/edit'
import { judgeRollRow, type JudgedRow } from '../../../core/roll/judge'
import { comparedWords, unknownWord, type ComparedWords, type MappedColumn, type RollRow } from '../../../core/roll/row'
import { ProblemError } from '../../../shared/problem'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { application, cycle, roll, rollEntry, rollRow, type RollTotals } from '../../database/schema'
import type { Caller, Context } from '../context'
import { readFile } from '../files/bytes'
import { keepForLater } from '../images/store'
import { currentNotice, type CurrentNotice } from '../notice/notices'
import { enterRows, type SettledRow } from './enter'
import { rollFinding, RollFiles, type PlacedRollFile } from './files'
import { fieldsOf, rollOf, rollRows } from './rolls'

/** One pass over a roll, row by row: the trial says what would become of each, entering does just that. */

type Row = Awaited<ReturnType<typeof rollOf>>
type Tell = (done: number, total: number) => Promise<boolean>
interface Under extends CurrentNotice {
  roll: Row
  columns: MappedColumn[]
  words: ComparedWords
  /** In how many rows each word stands that the notice does not know, by field. */
  unknown: Map<string, Map<string, number>>
  /** Where each person of the roll stands first. */
  seen: Map<string, number>
  reason: string | null
  files: RollFiles
}
type Pass = 'try' | 'enter'
const batchSize = 500

/** Tries a roll: nothing is entered. */
export const tryRoll = (caller: Caller, id: string, tell: Tell) => passOver(caller, id, 'try', tell)
/** Enters a roll; what was entered before is found again and made no second time. */
export const enterRoll = (caller: Caller, id: string, tell: Tell, reason: string | null) => passOver(caller, id, 'enter', tell, reason)

async function passOver(caller: Caller, id: string, pass: Pass, tell: Tell, reason: string | null = null): Promise<Record<string, number>> {
  const context = await caller.authorise('rolls.enter')
  const { db } = context
  const found = await rollOf(db, id)
  const current = await currentNotice(db, found.cycle)
  const fields = new Map(fieldsOf(context, current.notice).map(field => [field.id, field]))
  const columns = found.columns.flatMap((field, place) => {
    const known = field === null ? undefined : fields.get(field)
    return known ? [{ place, field: known }] : []
  })
  const under: Under = {
    ...current,
    roll: found,
    words: comparedWords(found.options.words ?? {}),
    unknown: new Map(),
    columns,
    seen: new Map(),
    reason,
    files: await RollFiles.of(db, id, current.notice, pass === 'enter'),
  }
  const totals: RollTotals = { rows: 0, made: 0, changed: 0, repeated: 0, refused: 0, gaps: 0 }
  await db.delete(rollRow).where(eq(rollRow.rollId, id))
  const bytes = await readFile(db, found.sha256)
  let batch: { row: number, cells: string[] }[] = []
  const settle = async () => {
    const rows = batch.length > 0 ? await db.transaction(tx => settleBatch(tx, context, under, batch, pass, totals)) : []
    if (pass === 'enter') await addFiles(caller, context, under, rows)
    batch = []
    // What was entered stays; a trial is to be made again.
    if (!await tell(totals.rows, found.rows)) throw refusal('roll.stopped')
  }
  for await (const one of rollRows(bytes, found.kind)) {
    if (one.row > 0) batch.push(one)
    if (batch.length === batchSize) await settle()
  }
  await settle()
  const files = await under.files.keep(db, id)
  if (files.all > 0) totals.files = files
  if (under.unknown.size > 0) {
    totals.words = Object.fromEntries([...under.unknown].map(([field, counts]) => [field, Object.fromEntries(counts)]))
  }
  await db.update(roll).set({ state: pass === 'try' ? 'tried' : 'entered', totals }).where(eq(roll.id, id))
  const { files: brought, words: _, ...counts } = totals
  return brought ? { ...counts, files: brought.placed } : counts
}

async function settleBatch(
  tx: Executor,
  context: Context,
  under: Under,
  batch: readonly { row: number, cells: string[] }[],
  pass: Pass,
  totals: RollTotals,
): Promise<WithFiles[]> {
  // Two passes over one roll follow each other batch by batch: the second finds whom the first has made.
  if (pass === 'enter') await tx.select({ code: cycle.code }).from(cycle).where(eq(cycle.code, under.roll.cycle)).for('update')
  const today = dateInZone(context.now(), under.notice.body.zone)
  const judged = batch.map(({ row, cells }) =>
    onlyOnce(
      under,
      row,
      judgeRollRow(under.notice, under.columns, under.roll.headings.length, cells, under.roll.options, today, under.words),
    )
  )
  const rows = (await compareWithEntered(tx, under, judged, pass)).map(row => withFiles(under, row))
  if (pass === 'enter') await enterRows(tx, context, under, rows, under.reason)
  totals.rows += rows.length
  for (const row of rows) {
    totals[row.outcome] += 1
    if (row.outcome !== 'refused' && row.gaps.length > 0) totals.gaps += 1
  }
  countWords(under, judged)
  const lookedAt = rows.filter(row => row.findings.length > 0)
  if (lookedAt.length > 0) {
    await tx.insert(rollRow).values(lookedAt.map(({ row, outcome, reference, answers, findings }) => ({
      rollId: under.roll.id,
      row,
      outcome,
      reference: reference.slice(0, 200),
      name: textAnswer(answers, 'certificateName').slice(0, 200),
      findings,
    })))
  }
  return rows
}

/** As many different words of one field are told; more are no words of a list. */
const wordsAtMost = 40

function countWords({ unknown }: Under, rows: readonly JudgedRow[]): void {
  for (const found of rows.flatMap(row => row.findings)) {
    const of = unknownWord(found)
    if (!of) continue
    const counts = unknown.get(of.field) ?? new Map<string, number>()
    unknown.set(of.field, counts)
    if (counts.has(of.word) || counts.size < wordsAtMost) counts.set(of.word, (counts.get(of.word) ?? 0) + 1)
  }
}

type WithFiles = SettledRow & { files: RollRow['files'], placed: ReadonlyMap<string, PlacedRollFile> }

/** A row with the pictures and papers that came for it. Those of a refused row wait until it is mended. */
function withFiles({ files }: Under, row: SettledRow & { number?: string }): WithFiles {
  // Of a person who stands in two rows the files go to the first.
  if (row.findings.some(found => found.code === 'roll.twice')) return { ...row, placed: new Map() }
  const { files: placed, findings } = files.forRow(row, row.number ?? null)
  if (row.outcome !== 'refused') return { ...row, findings: [...row.findings, ...findings], placed }
  for (const file of placed.values()) file.finding = rollFinding('roll.file-row', { row: row.row })
  return { ...row, placed: new Map() }
}

/** Puts the files of rows that were entered into their applications; measuring follows. What is there already is kept once. */
async function addFiles(
  caller: Caller,
  { db }: Context,
  { roll: { cycle: code, sender }, reason }: Under,
  rows: readonly WithFiles[],
): Promise<void> {
  const bearing = rows.filter(row => row.placed.size > 0)
  if (bearing.length === 0) return
  const entered = await db.select({ key: rollEntry.key, id: rollEntry.applicationId }).from(rollEntry)
    .where(and(eq(rollEntry.cycle, code), eq(rollEntry.sender, sender), inArray(rollEntry.key, bearing.map(row => row.key))))
  const ids = new Map(entered.map(row => [row.key, row.id]))
  const given = reason === null ? {} : { given: { reason, outsideDates: true } }
  for (const { key, placed } of bearing) {
    for (const [slot, file] of placed) {
      try {
        await keepForLater(caller, ids.get(key) ?? '', slot, { bytes: await readFile(db, file.sha256), ...given })
      } catch (error) {
        if (!(error instanceof ProblemError)) throw error
        file.finding = rollFinding('roll.file-not-taken', { row: file.row ?? 0 })
      }
    }
  }
}

/** The same person in two rows is entered by the first. */
function onlyOnce({ seen }: Under, row: number, judged: JudgedRow): JudgedRow & { row: number } {
  const first = judged.key === '' ? undefined : seen.get(judged.key)
  if (first !== undefined) {
    return {
      ...judged,
      row,
      isRefused: true,
      findings: [rollFinding('roll.twice', { row: first }), ...judged.findings.filter(found => found.verdict === 'fail')],
    }
  }
  if (judged.key !== '') seen.set(judged.key, row)
  return { ...judged, row }
}

async function compareWithEntered(
  tx: Executor,
  { roll: { cycle: code, sender } }: Under,
  judged: readonly (JudgedRow & { row: number })[],
  pass: Pass,
): Promise<(SettledRow & { number?: string })[]> {
  const keys = judged.filter(row => !row.isRefused).map(row => row.key)
  const asked = tx.select({ key: rollEntry.key, held: rollEntry.revision, application }).from(rollEntry).innerJoin(
    application,
    eq(application.id, rollEntry.applicationId),
  ).where(and(eq(rollEntry.cycle, code), eq(rollEntry.sender, sender), inArray(rollEntry.key, keys)))
  const entered =
    new Map((keys.length === 0 ? [] : await (pass === 'enter' ? asked.for('update', { of: application }) : asked)).map(
      row => [row.key, row]
    ))
  return judged.map((row): SettledRow & { number?: string } => {
    const known = entered.get(row.key)
    if (row.isRefused) return { ...row, outcome: 'refused' }
    if (!known) return { ...row, outcome: 'made' }
    const differs = differing(known.application.answers, row.answers)
    const { number } = known.application
    if (Object.keys(differs).length === 0) return { ...row, outcome: 'repeated', number }
    if (known.application.form !== 'drafting') return { ...row, outcome: 'refused', findings: [rollFinding('roll.frozen', { number })] }
    if (known.application.revision > known.held) {
      return { ...row, outcome: 'refused', findings: [rollFinding('roll.changed-since', { number })] }
    }
    return { ...row, outcome: 'changed', number, application: known.application, differs }
  })
}

/** Answers of a row that the application has otherwise. What the roll leaves empty is left as it is. */
const differing = (held: Answers, brought: Answers): Answers =>
  Object.fromEntries(Object.entries(brought).filter(([question, answer]) => !isEqual(held[question] ?? '', answer)))
