import { inArray, sql } from 'drizzle-orm'
import { listAnswer } from '../../../core/application/answers'
import { openRequests } from '../../../core/application/requests'
import { sheetDoubts } from '../../../core/application/sheet'
import { slotsOf } from '../../../core/application/slots'
import { addDays } from '../../../core/calendar/calendar-date'
import { dateInZone, instantInZone } from '../../../core/calendar/zone'
import { heldClaims } from '../../../core/eligibility/claims'
import { evaluatePosts } from '../../../core/eligibility/evaluate'
import type { Notice } from '../../../core/notice/schema'
import { doubtsOf, laneOf } from '../../../core/scrutiny/doubts'
import type { Executor } from '../../database/client'
import { locks } from '../../database/locks'
import { application } from '../../database/schema'
import { countedAnswers, decidedAnswers, type ApplicationRow } from '../applications/store'
import type { Caller, Context } from '../context'
import { currentImagesOfMany } from '../images/current'
import { currentNotice } from '../notice/notices'
import { findBarred } from '../barred/match'
import { keepIdentities } from './pairs'

const pageSize = 200

/** Looks at cases that the machine has not looked at yet, or has to look at again, and gives each its queue. */
export async function sortCases(caller: Caller): Promise<number> {
  const context = await caller.authorise('clock.act')
  for (let sorted = 0;;) {
    const page = await sortPage(context)
    sorted += page
    if (page < pageSize) return sorted
  }
}

/**
 * The same of a few, for whoever asks for a case before the machine came by itself. Where somebody else sorts now, that is waited for or
 * passed by.
 */
export async function sortPage(context: Context, cycle?: string, patience: 'wait' | 'pass' = 'pass'): Promise<number> {
  return context.db.transaction(async (tx) => {
    // One at a time: pairs are opened on both sides, and two who hold one side each would wait for the other.
    if (patience === 'wait') await locks.sortCases(tx)
    else if (!await locks.tryToSortCases(tx)) return 0
    // Applications first, as acts do; what somebody acts on now is looked at the next time.
    const { rows: fresh } = await tx.execute<
      { id: string }
    >(sql`select c.application_id as id from scrutiny_case c join application a on a.id = c.application_id
      where c.lane is null ${cycle ? sql`and c.cycle = ${cycle}` : sql``} order by c.since limit ${pageSize} for update of a skip locked`)
    if (fresh.length === 0) return 0
    const ids = fresh.map(row => row.id)
    const rows = await tx.select().from(application).where(inArray(application.id, ids))
    await keepIdentities(tx, context, rows)
    await findBarred(tx, context, rows)
    await sortRows(tx, rows)
    return fresh.length
  })
}

interface Known extends Record<string, unknown> {
  id: string
  decided: boolean
  pairs: string
  elsewhere: boolean
}

async function sortRows(tx: Executor, rows: readonly ApplicationRow[]): Promise<void> {
  const ids = rows.map(row => row.id)
  const images = await currentImagesOfMany(tx, ids)
  const { rows: found } = await tx.execute<
    Known
  >(sql`select id, exists (select 1 from scrutiny_decision d where d.application_id = one.id) as decided,
    (select count(*) from likely_pair p where p.state = 'open' and one.id in (p.first, p.second))
      + (select count(*) from barred_match m where m.state = 'open' and m.application_id = one.id) as pairs,
    exists (select 1 from referral r where r.application_id = one.id and r.answered_at is null) as elsewhere from unnest(${
    sql.param(ids)
  }::uuid[]) as one(id)`)
  const known = new Map(found.map(one => [one.id, one]))
  const sorted = []
  for (const row of rows) {
    const { notice } = await currentNotice(tx, row.cycle)
    const { decided = false, pairs = '0', elsewhere = false } = known.get(row.id) ?? {}
    const [counted, asked] = [countedAnswers(notice, row), decidedAnswers(notice, row)]
    const chosen = listAnswer(row.answers, 'posts')
    const doubts = doubtsOf({
      verdicts: evaluatePosts(notice, counted).filter(v => chosen.includes(v.post)).map(v => v.verdict),
      fileFindings: slotsOf(notice, asked).flatMap(({ id }) => images.get(row.id)?.[id]?.findings ?? []),
      personDoubts: sheetDoubts(row.answers).length,
      openClaims: heldClaims(notice, row.answers).filter(claim => !row.falseClaims.includes(claim.id)).length,
      openRequests: openRequests(notice, asked).length,
      openPairs: Number(pairs),
      isBack: decided,
    })
    sorted.push({
      id: row.id,
      lane: laneOf(doubts, { isElsewhere: elsewhere }),
      doubts: `{${doubts.join()}}`,
      until: lastMoment(notice, row.headlineSince),
    })
  }
  await tx
    .execute(sql`update scrutiny_case c set lane = s.lane, doubts = s.doubts::text[], until = s.until, held_by = case when s.lane = 'elsewhere' then null else c.held_by end
    from jsonb_to_recordset(${
      JSON.stringify(sorted)
    }::jsonb) as s(id uuid, lane text, doubts text, until timestamptz) where c.application_id = s.id and c.lane is null`)
}

/** The end of the day before which a case that came then should be decided; null where the notice says nothing. */
function lastMoment({ scrutiny, body: { zone } }: Notice, since: Date): string | null {
  return scrutiny?.days === undefined ? null : instantInZone(addDays(dateInZone(since, zone), scrutiny.days), '23:59', zone).toISOString()
}
