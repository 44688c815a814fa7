import { eq, sql, type SQL } from 'drizzle-orm'
import { answersThatCount } from '../../../core/eligibility/claims'
import { withDecisions } from '../../../core/application/requests'
import type { Answers } from '../../../core/application/answers'
import type { Tracks } from '../../../core/application/tracks'
import type { Notice } from '../../../core/notice/schema'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { application, cycle } from '../../database/schema'
import { asked, keptAbout } from '../../database/kept-statements'
import { rowsOfJson } from '../../database/together'
import { noticeInForceColumns, noticeInForceOf, type CurrentNotice, type InForceRow } from '../notice/notices'

export type ApplicationRow = typeof application.$inferSelect

/** The columns that say where an application stands. */
export type StandingRow = Pick<ApplicationRow, 'id' | 'number' | 'cycle' | 'headline' | keyof Tracks>
export const standingColumns = {
  id: application.id,
  number: application.number,
  cycle: application.cycle,
  headline: application.headline,
  form: application.form,
  fee: application.fee,
  scrutiny: application.scrutiny,
  placement: application.placement,
  card: application.card,
}

export function tracksOf(row: Pick<ApplicationRow, keyof Tracks>): Tracks {
  return { form: row.form, fee: row.fee, scrutiny: row.scrutiny, placement: row.placement, card: row.card }
}

/** The answers of a row as they were typed, with the office's word on its requests: what files are asked for goes by them. */
export function decidedAnswers(notice: Notice, row: Pick<ApplicationRow, 'answers' | 'requests'>): Answers {
  return withDecisions(notice, row.answers, row.requests)
}

/** The answers of a row that count: claims found false have fallen back as the notice says. */
export function countedAnswers(notice: Notice, row: Pick<ApplicationRow, 'answers' | 'falseClaims' | 'requests'>): Answers {
  const decided = decidedAnswers(notice, row)
  return row.falseClaims.length === 0 ? decided : answersThatCount(notice, decided, row.falseClaims)
}

/** Reads one application with the notice in force for its cycle; `columns` begin with a comma. */
export const applicationStatement = (columns: SQL): SQL =>
  // As JSON: naming forty columns takes longer than reading them.
  sql`select to_jsonb(${application}) as row, ${noticeInForceColumns}${columns}
    from ${application} join ${cycle} on ${cycle.code} = ${application.cycle} where ${application.id} = ${asked.id}`

const heldAbout = keptAbout(() => sql`${applicationStatement(sql``)} for update of ${application}`)
/** One application with the notice in force for its cycle, held until the transaction ends, so that two acts on it follow each other. */
export async function applicationHeld(tx: Executor, id: string): Promise<CurrentNotice & { row: ApplicationRow }> {
  // What is beside it is read once it is held: this statement sees the other tables as they were before it waited.
  return applicationUnder(tx, heldAbout({ id }))
}

interface FoundRow extends InForceRow {
  row: Record<string, unknown>
}

/** The same by a statement of its own, with the other columns of that. */
export async function applicationUnder<More extends Record<string, unknown>>(
  tx: Executor,
  statement: SQL,
): Promise<CurrentNotice & { row: ApplicationRow, more: More }> {
  const { rows: [found] } = await tx.execute<FoundRow>(statement)
  const [row] = found ? rowsOfJson(application, [found.row]) : []
  if (!found || !row) throw refusal('application.unknown')
  refuseErased(row)
  return { row, more: found as FoundRow & More, ...await noticeInForceOf(tx, row.cycle, found) }
}

/** Reads one application and holds it until the transaction ends, so that two acts on it follow each other. */
export async function lockApplication(tx: Executor, id: string): Promise<ApplicationRow> {
  const [row] = await tx.select().from(application).where(eq(application.id, id)).for('update')
  if (!row) throw refusal('application.unknown')
  refuseErased(row)
  return row
}

// What was erased is a number and how it stood: nothing is left to show or to act on.
function refuseErased({ erasedAt, number }: Pick<ApplicationRow, 'erasedAt' | 'number'>): void {
  if (erasedAt) throw refusal('application.erased', { number })
}

export async function readApplication(tx: Executor, id: string): Promise<ApplicationRow> {
  const [row] = await tx.select().from(application).where(eq(application.id, id))
  if (!row) throw refusal('application.unknown')
  refuseErased(row)
  return row
}
