import { and, asc, eq, inArray, sql, type SQL } from 'drizzle-orm'
import { compareKeyed, keyingStates, type KeyedDifference, type KeyingState } from '../../../core/application/keying'
import type { KeyingFigures, KeyingList, KeyingRow, KeyingView } from '../../../shared/keying'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { answerChange, application, paperForm } from '../../database/schema'
import { readApplication } from '../applications/store'
import type { Caller, Context } from '../context'
import { currentNotice } from '../notice/notices'
import { namesOf, type NameOf } from '../people/names'

const pageSize = 50
type Paper = typeof paperForm.$inferSelect
type Found = Pick<typeof application.$inferSelect, 'id' | 'number' | 'displayName' | 'receivedAt' | 'keying'> & {
  paper: Paper,
  isOwnFirst: boolean,
}

const found = (tx: Executor, context: Context, where: SQL | undefined) =>
  tx.select({
    id: application.id,
    number: application.number,
    displayName: application.displayName,
    receivedAt: application.receivedAt,
    keying: application.keying,
    paper: paperForm,
    isOwnFirst: sql<
      boolean
    >`exists (select 1 from ${answerChange} where ${answerChange.applicationId} = ${application.id} and ${answerChange.by} = ${context.principal.id})`,
  }).from(application).innerJoin(paperForm, eq(paperForm.applicationId, application.id)).where(where)

/** What is kept of the keying of a paper form. @throws ProblemError where the application came on no paper. */
export async function paperOf(tx: Executor, id: string): Promise<Paper> {
  const [paper] = await tx.select().from(paperForm).where(eq(paperForm.applicationId, id))
  if (!paper) throw refusal('keying.unknown')
  return paper
}

const peopleOf = ({ paper: { firstBy, secondBy, settledBy } }: Found) => [firstBy, secondBy, settledBy].flatMap(id => id ?? [])

function rowView(
  { principal }: Context,
  { id, number, displayName, receivedAt, paper, isOwnFirst, keying }: Found,
  name: NameOf,
): KeyingRow {
  const { firstBy, firstAt, secondBy, secondAt, reference, differing } = paper
  return {
    // Whoever keys it a second time reads nothing that the first has keyed.
    id,
    number,
    name: keying === 'second' && secondBy === principal.id ? '' : displayName,
    reference,
    receivedAt: receivedAt?.toISOString() ?? '',
    isOwnFirst,
    differing: keying === 'differing' ? differing?.length ?? 0 : 0,
    first: firstBy && firstAt ? { by: name(firstBy), at: firstAt.toISOString() } : null,
    second: secondBy ? { by: name(secondBy), at: secondAt?.toISOString() ?? null, isOwn: secondBy === principal.id } : null,
  }
}

/** One paper form as far as the reader may see it: what the second person has keyed is theirs alone until it is done. */
export async function viewOf(tx: Executor, context: Context, id: string): Promise<KeyingView> {
  const [row] = await found(tx, context, eq(application.id, id))
  if (!row) throw refusal('keying.unknown')
  const { paper } = row
  const name = await namesOf(tx, peopleOf(row))
  const view = rowView(context, row, name)
  const state = row.keying ?? 'first'
  const isDone = state === 'differing' || state === 'agreed'
  return {
    ...view,
    state,
    keyed: isDone || view.second?.isOwn ? paper.second : {},
    differences: await differencesOf(tx, row),
    compared: paper.compared,
    settled: paper.settledAt
      ? { settlements: paper.settled ?? [], by: paper.settledBy ? name(paper.settledBy) : null, at: paper.settledAt.toISOString() }
      : null,
  }
}

/** Where both differ: while nobody has settled it by the notice in force, as settling asks; afterwards as it was then. */
async function differencesOf(tx: Executor, { id, keying, paper }: Found): Promise<KeyedDifference[]> {
  if (keying === 'agreed') return paper.differing ?? []
  if (keying !== 'differing') return []
  const { answers, cycle } = await readApplication(tx, id)
  return compareKeyed((await currentNotice(tx, cycle)).notice, answers, paper.second).differing
}

export async function readKeying(caller: Caller, id: string): Promise<KeyingView> {
  const context = await caller.authorise('forms.key')
  return viewOf(context.db, context, id)
}

/** The paper forms of a cycle that stand at one point of their keying, those that came in first before, by pages. */
export async function listKeying(caller: Caller, cycle: string, state: KeyingState, after?: string): Promise<KeyingList> {
  const context = await caller.authorise('forms.key', { cycle })
  const { db } = context
  const [at, last] = after?.split('|') ?? []
  const key = at && last ? sql`(${application.receivedAt}, ${application.id}) > (${at}::timestamptz, ${last}::uuid)` : undefined
  if (after !== undefined && (Number.isNaN(Date.parse(at ?? '')) || !/^[\da-f-]{36}$/u.test(last ?? ''))) {
    throw refusal('input.list-place', { value: after })
  }
  const rows = await found(db, context, and(eq(application.cycle, cycle), eq(application.keying, state), key)).orderBy(
    asc(application.receivedAt),
    asc(application.id),
  ).limit(pageSize + 1)
  const shown = rows.slice(0, pageSize)
  const end = shown.at(-1)
  const name = await namesOf(db, shown.flatMap(peopleOf))
  const counts = await keyingCounts(db, cycle)
  return {
    counts: Object.fromEntries(keyingStates.map(one => [one, counts.get(one) ?? 0])) as Record<KeyingState, number>,
    open: await openFor(context, cycle),
    rows: shown.map(row => rowView(context, row, name)),
    next: rows.length > pageSize && end ? `${end.receivedAt?.toISOString()}|${end.id}` : null,
    figures: after === undefined ? await figuresOf(db, cycle) : null,
  }
}

async function openFor({ db, principal }: Context, cycle: string): Promise<number> {
  const { rows: [row] } = await db.execute<
    { n: string }
  >(sql`select count(*) as n from application a where a.cycle = ${cycle} and a.keying = 'second' and a.form = 'drafting'
    and not exists (select 1 from answer_change c where c.application_id = a.id and c.by = ${principal.id})`)
  return Number(row?.n ?? 0)
}

/** What two keyings of the same forms have shown: how often they differ, whose word held, and where. */
async function figuresOf(db: Executor, cycle: string): Promise<KeyingFigures> {
  const { rows: [sum] } = await db.execute<
    Record<'compared' | 'differing' | 'first' | 'second' | 'anew', string>
  >(sql`select coalesce(sum(p.compared), 0) as compared, coalesce(sum(jsonb_array_length(p.differing)), 0) as differing,
      coalesce(sum(k.first), 0) as first, coalesce(sum(k.second), 0) as second, coalesce(sum(k.anew), 0) as anew
    from application a join paper_form p on p.application_id = a.id
      cross join lateral (select count(*) filter (where s ->> 'keep' = 'first') as first, count(*) filter (where s ->> 'keep' = 'second') as second, count(*) filter (where s ->> 'keep' = 'anew') as anew from jsonb_array_elements(p.settled) s) k
    where a.cycle = ${cycle} and a.keying in ('differing', 'agreed')`)
  const { rows: often } = await db.execute<
    { question: string, n: string }
  >(sql`select d ->> 'question' as question, count(*) as n from application a join paper_form p on p.application_id = a.id cross join jsonb_array_elements(p.differing) d
    where a.cycle = ${cycle} and a.keying in ('differing', 'agreed') group by 1 order by 2 desc, 1 limit 5`)
  const [compared = 0, differing = 0, first = 0, second = 0, anew = 0] = [sum?.compared, sum?.differing, sum?.first, sum?.second, sum?.anew]
    .map(Number)
  return { compared, differing, first, second, anew, often: often.map(({ question, n }) => ({ question, n: Number(n) })) }
}

/** How many forms stand at each point of the keying, by the index of it. */
async function keyingCounts(tx: Executor, cycle: string): Promise<Map<string, number>> {
  const rows = await tx.select({ state: application.keying, n: sql<string>`count(*)` }).from(application)
    .where(and(eq(application.cycle, cycle), inArray(application.keying, [...keyingStates]))).groupBy(application.keying)
  return new Map(rows.map(({ state, n }) => [state ?? '', Number(n)]))
}
