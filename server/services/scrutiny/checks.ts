import { sql, type SQL } from 'drizzle-orm'
import type { Finding, Verdict } from '../../../core/finding/finding'
import { boundOfCheck } from '../../../core/notice/bounds'
import { imageKinds } from '../../../core/notice/image-rules'
import type { CheckRecord, CheckRecords, CheckValues } from '../../../shared/scrutiny'
import { refusal } from '../../../shared/refusal'
import type { Caller } from '../context'
import { currentNotice } from '../notice/notices'

/** So many decisions, the newest, are looked at: enough to judge a bound by, and as quick for a million as for a thousand. */
const decisionsLooked = 5000
const bins = 60

/**
 * Findings of files that people decided on: of an acceptance all that were asked for then, of a return those that were named in its
 * reasons. The version that counts is the newest at the time of the decision.
 */
function judged(cycle: string): SQL {
  return sql`
    with decided as materialized (
      select * from scrutiny_decision where cycle = ${cycle} and decision in ('accept', 'return') order by at desc limit ${decisionsLooked}
    ), judged as materialized (
      select row_number() over () as place, d.decision = 'accept' as accepted, d.at, i.kind, i.findings from decided d
      cross join lateral (
        select distinct on (i.kind) i.kind, i.findings from image i
        where i.application_id = d.application_id and i.state = 'measured' and i.correction_id is null and i.at <= d.at order by i.kind, i.version desc
      ) i
      where d.decision = 'accept' and (d.slots is null or d.slots ? i.kind) or exists (select 1 from jsonb_array_elements(d.reasons) r where r ->> 'item' = i.kind)
    )`
}

interface Counted extends Record<string, unknown> {
  code: string
  kind: string
  accepted: boolean
  verdict: Verdict
  n: string
  sample: Finding
}

/** How each check has done against people's decisions. */
export async function readCheckRecords(caller: Caller, cycle: string): Promise<CheckRecords> {
  const context = await caller.authorise('scrutiny.read')
  const { notice } = await currentNotice(context.db, cycle)
  // A sample is found again by its place: carried along, all findings would be sorted with it.
  const { rows } = await context.db.execute<Counted>(sql`${judged(cycle)}, counted as (
      select f ->> 'code' as code, kind, accepted, f ->> 'verdict' as verdict, count(*) as n, min(place * 1000 + nth) as first
      from judged cross join lateral jsonb_array_elements(findings) with ordinality as each(f, nth) group by 1, 2, 3, 4
    ) select c.*, j.findings -> (c.first % 1000 - 1)::int as sample from counted c join judged j on j.place = c.first / 1000`)
  const { rows: [span] } = await context.db.execute<
    { decisions: string, since: Date | null }
  >(sql`${judged(cycle)} select count(*) as decisions, min(at) as since from decided`)
  const checks = new Map<string, CheckRecord>()
  for (const row of rows) {
    const none = { pass: 0, unsure: 0, fail: 0 }
    const id = `${row.kind}/${row.code}`
    const check = checks.get(id)
      ?? {
        id,
        code: row.code,
        kind: row.kind,
        accepted: { ...none },
        returned: { ...none },
        sample: { ...row.sample, bound: boundOfCheck(notice, row.kind, row.code) ?? row.sample.bound },
      }
    check[row.accepted ? 'accepted' : 'returned'][row.verdict] += Number(row.n)
    checks.set(id, check)
  }
  const kinds: string[] = [...imageKinds, ...notice.documents.map(({ id }) => id)]
  const order = (check: CheckRecord) => kinds.indexOf(check.kind)
  return {
    decisions: Number(span?.decisions ?? 0),
    since: span?.since ? new Date(span.since).toISOString() : null,
    checks: [...checks.values()].sort((a, b) => order(a) - order(b) || doubtfulness(b) - doubtfulness(a) || a.id.localeCompare(b.id)),
  }
}

/** Checks that had most to say come first, and before all those on which people and rule part. */
const doubtfulness = (check: CheckRecord) => check.accepted.fail * 2 + check.accepted.unsure + check.returned.unsure + check.returned.fail

/** Values of one check, named by its record's id, on accepted and returned files, to see where its bound parts them. */
export async function readCheckValues(caller: Caller, cycle: string, id: string): Promise<CheckValues> {
  const context = await caller.authorise('scrutiny.read')
  const [kind = '', code = ''] = id.split('/')
  const { notice } = await currentNotice(context.db, cycle)
  const { rows } = await context.db.execute<{ accepted: boolean, value: number, n: string }>(sql`${judged(cycle)}
    select accepted, (f ->> 'value')::float8 as value, count(*) as n
    from judged cross join lateral jsonb_array_elements(findings) f where kind = ${kind} and f ->> 'code' = ${code} and f ->> 'value' is not null group by 1, 2`)
  if (rows.length === 0) throw refusal('check.no-values', { check: id.slice(0, 120) })
  const bound = boundOfCheck(notice, kind, code)
  const ends = [...rows.map(row => row.value), bound?.min ?? NaN, bound?.max ?? NaN].filter(v => !Number.isNaN(v))
  const [from, to] = [Math.min(...ends), Math.max(...ends)]
  const width = (to - from) / bins || 1
  const values: CheckValues = {
    id,
    bound,
    from,
    width,
    accepted: new Array<number>(bins + 1).fill(0),
    returned: new Array<number>(bins + 1).fill(0),
  }
  for (const { accepted, value, n } of rows) {
    const counts = values[accepted ? 'accepted' : 'returned']
    const bin = Math.min(bins, Math.floor((value - from) / width))
    counts[bin] = (counts[bin] ?? 0) + Number(n)
  }
  return values
}
