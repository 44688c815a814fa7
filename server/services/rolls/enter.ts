import { sql } from 'drizzle-orm'
import type { Answers } from '../../../core/application/answers'
import { openMatters } from '../../../core/application/open-matters'
import { headline, newTracks } from '../../../core/application/tracks'
import { applicationNumber } from '../../../core/identity/check-digit'
import type { JudgedRow } from '../../../core/roll/judge'
import type { Executor } from '../../database/client'
import { application, cycle, rollEntry } from '../../database/schema'
import { matterRow, openMany, settleMatters } from '../acts/matters'
import { searchKeys } from '../applications/answers'
import type { ApplicationRow } from '../applications/store'
import { logMany, type Context } from '../context'
import type { CurrentNotice } from '../notice/notices'

/** A row of a roll and what becomes of it. */
export type SettledRow = JudgedRow & { row: number } & ({ outcome: 'made' | 'repeated' | 'refused' } | ChangedRow)
/** A row that changes the application it made before, and the answers that differ. */
interface ChangedRow {
  outcome: 'changed'
  application: ApplicationRow
  differs: Answers
}
interface Under extends CurrentNotice {
  roll: { id: string, cycle: string, sender: string }
}

/** Writes a batch of a roll in a few statements, in the transaction that found what is there already. */
export async function enterRows(
  tx: Executor,
  context: Context,
  under: Under,
  rows: readonly SettledRow[],
  reason: string | null,
): Promise<void> {
  const made = rows.filter(row => row.outcome === 'made')
  if (made.length > 0) await makeApplications(tx, context, under, made, reason)
  for (const row of rows) if (row.outcome === 'changed') await changeApplication(tx, context, under, row)
}

// What they begin with is not kept answer by answer: it stands in the roll's file, whose row the log names.
async function makeApplications(
  tx: Executor,
  context: Context,
  under: Under,
  rows: readonly (JudgedRow & { row: number })[],
  reason: string | null,
): Promise<void> {
  const { cycle: code, sender } = under.roll
  const at = context.now()
  const [counter] = await tx.update(cycle).set({ lastSerial: sql`${cycle.lastSerial} + ${rows.length}` })
    .where(sql`${cycle.code} = ${code}`).returning()
  const first = (counter?.lastSerial ?? rows.length) - rows.length
  const people = rows.map((row, i) => ({ row, id: context.newId(), number: applicationNumber(code, first + i + 1) }))
  const drafted = headline(newTracks)
  const moment = at.toISOString()
  // As one JSON parameter a statement: thousands of rows of parameters of their own take most of the time.
  const written = JSON
    .stringify(people.map(({ row, id, number }) => ({ id, number, answers: row.answers, key: row.key, ...searchKeys(row.answers) })))
  const records =
    sql`jsonb_to_recordset(${written}::jsonb) as made(id uuid, number text, answers jsonb, key text, "displayName" text, "nameKey" text, "mobileKey" text)`
  await tx.execute(sql`
    insert into application (id, cycle, number, answers, revision, display_name, name_key, mobile_key, form, fee, scrutiny, placement, card, headline, headline_since, created_at, updated_at)
    select id, ${code}, number, answers, 1, "displayName", "nameKey", "mobileKey", ${newTracks.form}, ${newTracks.fee}, ${newTracks.scrutiny}, ${newTracks.placement}, ${newTracks.card}, ${drafted},
      ${moment}::timestamptz, ${moment}::timestamptz, ${moment}::timestamptz from ${records}`)
  await tx
    .execute(sql`insert into headline_change (id, application_id, cycle, from_headline, to_headline, at) select gen_random_uuid(), id, ${code}, null, ${drafted}, ${moment}::timestamptz from ${records}`)
  await tx
    .execute(sql`insert into roll_entry (cycle, sender, key, application_id, revision) select ${code}, ${sender}, key, id, 1 from ${records}`)
  await logMany(
    tx,
    context,
    'begin',
    people.map(({ row, id, number }) => ({
      subject: { kind: 'application', id },
      cycle: code,
      reason,
      outsideDates: reason !== null,
      after: { number, sender, roll: under.roll.id, row: row.row, ...newTracks },
      noticeVersion: under.version,
    })),
  )
  const matters = people.flatMap(({ id, row: { answers, gaps } }) =>
    openMatters({
      notice: under.notice,
      tracks: newTracks,
      sheetFindings: gaps,
      answers,
      openUntil: null,
      files: {},
    }).map(matter => matterRow(context, { id, cycle: code }, matter))
  )
  await openMany(tx, matters)
}

async function changeApplication(tx: Executor, context: Context, under: Under, row: JudgedRow & ChangedRow): Promise<void> {
  const { cycle: code, sender } = under.roll
  const before = row.application
  const revision = before.revision + 1
  const answers = { ...before.answers, ...row.differs }
  const at = context.now()
  const [saved] = await tx.update(application).set({ answers, revision, ...searchKeys(answers), updatedAt: at })
    .where(sql`${application.id} = ${before.id}`).returning()
  const old = Object.fromEntries(Object.keys(row.differs).map(question => [question, before.answers[question] ?? null]))
  await tx.execute(sql`
    insert into answer_change (id, application_id, revision, question, before, after, by, at)
    select gen_random_uuid(), ${before.id}::uuid, ${revision}::int, one.key, ${
    JSON.stringify(old)
  }::jsonb -> one.key, one.value, ${context.principal.id}::uuid, ${at.toISOString()}::timestamptz
    from jsonb_each(${JSON.stringify(row.differs)}::jsonb) as one`)
  await logMany(tx, context, 'save-answers', [{
    subject: { kind: 'application', id: before.id },
    cycle: code,
    before: old,
    after: row.differs,
    noticeVersion: under.version,
  }])
  await tx.update(rollEntry).set({ revision })
    .where(sql`${rollEntry.cycle} = ${code} and ${rollEntry.sender} = ${sender} and ${rollEntry.key} = ${row.key}`)
  if (saved) await settleMatters(tx, context, saved, under.notice)
}
