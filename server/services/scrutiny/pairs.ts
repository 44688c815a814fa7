import { and, eq, inArray, or, sql } from 'drizzle-orm'
import {
  identityKeys,
  identityOf,
  keyHash,
  likelyFrom,
  pairScore,
  type Identity,
  type PairReason,
} from '../../../core/identity/likely-pair'
import type { PairInput, PairPage, PairSide, PairView } from '../../../shared/scrutiny'
import { refusal } from '../../../shared/refusal'
import { alone, type Executor } from '../../database/client'
import { application, likelyPair } from '../../database/schema'
import { actingOn, carryOutOn } from '../acts/carry-out'
import { settleMattersOfMany } from '../acts/matters'
import type { ApplicationRow } from '../applications/store'
import { unseat } from '../centres/seats'
import { log, type Caller, type Context } from '../context'
import { feeStateOf } from '../fees/assessments'
import { giveUpDues } from '../fees/reliefs'
import { namesOf } from '../people/names'
import { currentNotice } from '../notice/notices'

/** A key that so many share tells nobody apart: an institution's telephone, a birth date of everybody who knows no better. */
export const mostAlike = 60

/** Keeps the keys of some applications, looks for others of likely the same person, and opens what a person has to judge. */
export async function keepIdentities(tx: Executor, context: Context, rows: readonly ApplicationRow[]): Promise<void> {
  await keepKeys(tx, rows)
  await openPairs(tx, context, await likelyPairs(tx, rows))
}

export async function keepKeys(tx: Executor, rows: readonly Pick<ApplicationRow, 'id' | 'cycle' | 'answers'>[]): Promise<void> {
  const made: { id: string, cycle: string, key: string }[] = []
  for (const row of rows) {
    const { notice } = await currentNotice(tx, row.cycle)
    for (const key of identityKeys(identityOf(notice, row.answers))) {
      made.push({ id: row.id, cycle: row.cycle, key: keyHash(key).toString() })
    }
  }
  const records = sql`jsonb_to_recordset(${JSON.stringify(made)}::jsonb) as k(id uuid, cycle text, key bigint)`
  await tx
    .execute(sql`with wanted as (select * from ${records}), gone as (delete from identity_key i where i.application_id = any(${
      sql.param(rows.map(row => row.id))
    }::uuid[]) and not exists (select 1 from wanted w where w.id = i.application_id and w.key = i.key))
    insert into identity_key (cycle, key, application_id) select cycle, key, id from wanted order by cycle, key, id on conflict do nothing`)
}

interface Found extends Record<string, unknown> {
  first: string
  second: string
}
export interface LikelyPair {
  cycle: string
  first: string
  second: string
  score: number
  reasons: PairReason[]
}

/** The likely pairs of some applications with all others of their cycle that stand: found by keys, scored by core. */
async function likelyPairs(tx: Executor, rows: readonly ApplicationRow[]): Promise<LikelyPair[]> {
  const { rows: found } = await tx.execute<Found>(sql`
    select distinct least(k.application_id, o.application_id) as first, greatest(k.application_id, o.application_id) as second
    from identity_key k cross join lateral (
      select i.application_id from identity_key i where i.cycle = k.cycle and i.key = k.key limit ${mostAlike + 1}) o
    where k.application_id = any(${sql.param(rows.map(row => row.id))}::uuid[]) and o.application_id <> k.application_id
      and (select count(*) from (select 1 from identity_key i where i.cycle = k.cycle and i.key = k.key limit ${
    mostAlike + 1
  }) n) <= ${mostAlike}`)
  return scored(tx, found)
}

/** Scores pairs and leaves out those that are not likely, that are over, and that are known. */
export async function scored(tx: Executor, found: readonly Found[]): Promise<LikelyPair[]> {
  if (found.length === 0) return []
  const ids = [...new Set(found.flatMap(pair => [pair.first, pair.second]))]
  const people = new Map((await tx.select({
    id: application.id,
    cycle: application.cycle,
    answers: application.answers,
    form: application.form,
    nameKey: application.nameKey,
  }).from(application).where(inArray(application.id, ids))).map(row => [row.id, row]))
  const likely: { one: Person, two: Person, sides: [Identity, Identity] }[] = []
  for (const { first, second } of found) {
    const [one, two] = [people.get(first), people.get(second)]
    if (!one || !two || !stands(one) || !stands(two)) continue
    const { notice } = await currentNotice(tx, one.cycle)
    const sides: [Identity, Identity] = [identityOf(notice, one.answers), identityOf(notice, two.answers)]
    if (pairScore(...sides).score >= likelyFrom) likely.push({ one, two, sides })
  }
  // How many bear a name is asked only of those who are likely but for that.
  const bearers = await bearersOf(tx, likely.flatMap(({ one, two }) => [one, two]))
  return likely.flatMap(({ one, two, sides }) => {
    const [ones, others] = [one, two].map(person => bearers.get(`${person.cycle} ${person.nameKey}`) ?? 1)
    const { score, reasons } = pairScore(...sides, (ones ?? 1) + (one.nameKey === two.nameKey ? 0 : others ?? 1) - 1)
    return score >= likelyFrom ? [{ cycle: one.cycle, first: one.id, second: two.id, score, reasons }] : []
  })
}

type Person = Pick<ApplicationRow, 'id' | 'cycle' | 'answers' | 'form' | 'nameKey'>
/** More namesakes than this make no difference. */
const bearersAtMost = 200

/** How many applications of a cycle bear each of the names, by cycle and name. */
async function bearersOf(tx: Executor, people: readonly Person[]): Promise<Map<string, number>> {
  const names = [...new Map(people.map(({ cycle, nameKey }) => [`${cycle} ${nameKey}`, { cycle, name: nameKey }])).values()]
  if (names.length === 0) return new Map()
  const { rows } = await tx.execute<{ cycle: string, name: string, n: string }>(sql`
    select w.cycle, w.name, (select count(*) from (select 1 from application a where a.cycle = w.cycle and a.name_key = w.name limit ${bearersAtMost}) n) as n from jsonb_to_recordset(${
    JSON.stringify(names)
  }::jsonb) as w(cycle text, name text)`)
  return new Map(rows.map(row => [`${row.cycle} ${row.name}`, Number(row.n)]))
}
const stands = ({ form }: Pick<ApplicationRow, 'form'>) => form === 'submitted' || form === 'correcting'

/** Writes down pairs that nobody has been asked about, and opens the matter on both sides. */
export async function openPairs(tx: Executor, context: Context, pairs: readonly LikelyPair[]): Promise<number> {
  if (pairs.length === 0) return 0
  const { rows: fresh } = await tx.execute<Found>(sql`insert into likely_pair (id, cycle, first, second, score, reasons, found_at)
    select gen_random_uuid(), cycle, first, second, score, reasons, ${context.now().toISOString()}::timestamptz
    from jsonb_to_recordset(${
    JSON.stringify(pairs)
  }::jsonb) as p(cycle text, first uuid, second uuid, score int, reasons jsonb) order by first, second on conflict (first, second) do nothing returning first, second`)
  await settleBoth(tx, context, fresh)
  return fresh.length
}

async function settleBoth(tx: Executor, context: Context, pairs: readonly Found[]): Promise<void> {
  const ids = [...new Set(pairs.flatMap(pair => [pair.first, pair.second]))]
  if (ids.length === 0) return
  // In one order, so that two who open pairs at once do not wait for each other in a circle.
  const rows = await tx.select().from(application).where(inArray(application.id, ids)).orderBy(application.id).for('update')
  for (const code of new Set(rows.map(row => row.cycle))) {
    const { notice } = await currentNotice(tx, code)
    await settleMattersOfMany(tx, context, rows.filter(row => row.cycle === code), notice)
  }
}

/**
 * Pairs of which one side has left the flow need no answer; when it comes back, they do again, and so do those that were one person's of
 * which both stand after all.
 */
export async function settleMootPairs(caller: Caller): Promise<void> {
  const context = await caller.authorise('clock.act')
  // Whoever looks at once meets the same pairs: one does.
  await alone(context.db, 'moot pairs', () =>
    context.db.transaction(async (tx) => {
      const over = sql`exists (select 1 from application a where a.id in (p.first, p.second) and a.form not in ('submitted', 'correcting'))`
      const { rows } = await tx.execute<Found>(sql`update likely_pair p set state = case p.state when 'open' then 'moot' else 'open' end
      where (p.state = 'open' and ${over}) or (p.state in ('moot', 'same') and not ${over}) returning first, second`)
      await settleBoth(tx, context, rows)
    }))
}

/** Likely pairs of a cycle, the likeliest first, or those of one application. */
export async function listPairs(caller: Caller, cycle: string, { after, of }: { after?: string, of?: string } = {}): Promise<PairPage> {
  const { db } = await caller.authorise('scrutiny.read')
  const limit = 30
  const [score, id] = after?.split('~') ?? []
  const rows = await db.select().from(likelyPair).where(and(
    eq(likelyPair.cycle, cycle),
    of ? or(eq(likelyPair.first, of), eq(likelyPair.second, of)) : eq(likelyPair.state, 'open'),
    score && id ? sql`(${likelyPair.score}, ${likelyPair.id}) < (${Number(score)}, ${id}::uuid)` : undefined,
  )).orderBy(sql`${likelyPair.score} desc, ${likelyPair.id} desc`).limit(limit + 1)
  const page = rows.slice(0, limit)
  const last = page.at(-1)
  const ids = [...new Set(page.flatMap(pair => [pair.first, pair.second]))]
  const people = ids.length === 0 ? [] : await db.select().from(application).where(inArray(application.id, ids))
  const { notice } = await currentNotice(db, cycle)
  const sides = new Map(people.map((row): [string, PairSide] => [row.id, {
    id: row.id,
    number: row.number,
    name: row.displayName,
    headline: row.headline,
    fee: row.fee,
    submittedAt: row.submittedAt?.toISOString() ?? null,
    identity: identityOf(notice, row.answers),
    posts: row.answers.posts as string[] | undefined ?? [],
  }]))
  const name = await namesOf(db, page.flatMap(pair => pair.by ?? []))
  return {
    pairs: page.flatMap((pair): PairView[] => {
      const [first, second] = [sides.get(pair.first), sides.get(pair.second)]
      return first && second
        ? [{
          id: pair.id,
          score: pair.score,
          reasons: pair.reasons,
          state: pair.state,
          first,
          second,
          stands: pair.stands,
          reason: pair.reason,
          by: pair.by ? name(pair.by) : null,
          at: pair.at?.toISOString() ?? null,
        }]
        : []
    }),
    next: rows.length > limit && last ? `${last.score}~${last.id}` : null,
  }
}

/**
 * Judges a pair. Different people are never asked about again. Of the same person one application stands; the other is set aside, and its
 * money is owed back by the rules of a withdrawal.
 *
 * @throws ProblemError `pair.judged` when somebody has judged it already, `pair.over` when one side has left the flow.
 */
export async function judgePair(caller: Caller, id: string, { result, stands: standing, reason }: PairInput): Promise<void> {
  const context = await caller.authorise('scrutiny.decide')
  await context.db.transaction(async (tx) => {
    const [pair] = await tx.select().from(likelyPair).where(eq(likelyPair.id, id)).for('update')
    if (!pair) throw refusal('pair.unknown')
    if (pair.state !== 'open') throw refusal(pair.state === 'moot' ? 'pair.over' : 'pair.judged', { state: pair.state })
    if (result === 'same' && standing !== pair.first && standing !== pair.second) throw refusal('pair.unknown')
    // Both in one order, so that nobody who opens or judges another pair of theirs waits in a circle.
    await tx.select({ id: application.id }).from(application).where(inArray(application.id, [pair.first, pair.second]))
      .orderBy(application.id).for('update')
    await tx.update(likelyPair).set({
      state: result,
      reason,
      stands: result === 'same' ? standing : null,
      by: context.principal.id,
      at: context.now(),
    }).where(eq(likelyPair.id, id))
    await log(tx, context, 'judge-pair', {
      subject: { kind: 'application', id: pair.first },
      cycle: pair.cycle,
      reason,
      before: { state: 'open', score: pair.score },
      after: { state: result, other: pair.second, stands: standing ?? null },
    })
    if (result === 'same') {
      const acting = await actingOn(tx, context, standing === pair.first ? pair.second : pair.first)
      await carryOutOn(acting, 'set-aside', { reason }, async ({ row }) => {
        await unseat(tx, context, [row.id])
        return {
          result: null,
          outcome: { fee: (await giveUpDues(tx, context, [row.id])).get(row.id) ?? await feeStateOf(tx, context, row.id) },
          after: { form: 'withdrawn', stands: standing },
        }
      })
    }
    await settleBoth(tx, context, [pair])
  })
}
