import { sql, type SQL } from 'drizzle-orm'
import type { AllocationPolicy } from '../../../core/allocation/policy'
import type { Notice } from '../../../core/notice/schema'
import type { ComparedGroup, ComparedPerson, Comparison } from '../../../shared/centres'
import { refusal } from '../../../shared/refusal'
import type { Caller } from '../context'
import { namesOf } from '../people/names'
import { currentNotice } from '../notice/notices'
import { runRow, storedRun } from './runs'

/** Who gains and who loses when the second of two runs takes the place of the first, by the costs of the first, group by group. */
export async function compareRuns(caller: Caller, firstId: string, secondId: string): Promise<Comparison> {
  const context = await caller.authorise('centres.read')
  const [first, second] = [await storedRun(context.db, firstId), await storedRun(context.db, secondId)]
  if (first.cycle !== second.cycle) throw refusal('run.other-cycle')
  const { notice } = await currentNotice(context.db, first.cycle)
  const { rows } = await context.db.execute(sql`
    with both_runs as (${bothRuns(firstId, secondId, first.policy, notice)})
    select grouping(category, pwd, gender, island) as which, coalesce(category, pwd, gender, island) as name, count(*) as people,
      count(*) filter (where gain > 0) as gain, count(*) filter (where gain < 0) as lose, coalesce(sum(gain) filter (where gain > 0), 0) as points_gained, coalesce(-sum(gain) filter (where gain < 0), 0) as points_lost,
      count(*) filter (where a_choice = 1) as a_first, count(*) filter (where b_choice = 1) as b_first,
      count(*) filter (where a_city is not null and a_choice is null) as a_off, count(*) filter (where b_city is not null and b_choice is null) as b_off,
      count(*) filter (where a_city is null) as a_none, count(*) filter (where b_city is null) as b_none, coalesce(avg(a_km), 0) as a_km, coalesce(avg(b_km), 0) as b_km
    from both_runs group by grouping sets ((), (category), (pwd), (gender), (island)) order by 1, 2`)
  const groups = (rows as unknown as GroupRow[]).map(row => ({ by: groupings[Number(row.which)] ?? 'all', group: comparedGroup(row) }))
  const [alone] = (await context.db.execute(sql`
    select count(*) filter (where b.run_id is null) as first, count(*) filter (where a.run_id is null) as second
    from (select * from run_placement where run_id = ${firstId}) a full join (select * from run_placement where run_id = ${secondId}) b using (application_id)`))
    .rows as { first: string, second: string }[]
  const name = await namesOf(context.db, [first, second].flatMap(run => [run.by, run.publishedBy]))
  return {
    first: runRow(first, name),
    second: runRow(second, name),
    all: groups.find(g => g.by === 'all')?.group ?? { ...comparedGroup(nobody) },
    groups: (['category', 'pwd', 'gender', 'island'] as const).map(by => ({ by, rows: groups.filter(g => g.by === by).map(g => g.group) })),
    onlyFirst: Number(alone?.first ?? 0),
    onlySecond: Number(alone?.second ?? 0),
  }
}

/** The people who gain most, or lose most, a page at a time by key; equal points by number. `after` is the last of the page before. */
export async function comparedPeople(
  caller: Caller,
  firstId: string,
  secondId: string,
  side: 'gain' | 'lose',
  after?: { points: number, number: string },
): Promise<ComparedPerson[]> {
  const context = await caller.authorise('centres.read')
  const first = await storedRun(context.db, firstId)
  const { notice } = await currentNotice(context.db, first.cycle)
  const { rows } = await context.db.execute(sql`
    with both_runs as (${bothRuns(firstId, secondId, first.policy, notice)})
    select * from both_runs where ${side === 'gain' ? sql`gain > 0` : sql`gain < 0`}
      ${
    after
      ? sql`and (abs(gain) < ${Math.abs(after.points)}::integer or (abs(gain) = ${
        Math.abs(after.points)
      }::integer and number > ${after.number}))`
      : sql``
  }
    order by abs(gain) desc, number limit 100`)
  return (rows as unknown as PersonRow[]).map(row => ({
    applicationId: row.application_id,
    number: row.number,
    name: row.name,
    points: Number(row.gain),
    first: { city: row.a_city, choice: row.a_choice, km: row.a_km },
    second: { city: row.b_city, choice: row.b_choice, km: row.b_km },
  }))
}

// The grouping function sets a bit for each column that a row is not grouped by, the first column highest.
const groupings: Record<number, 'all' | 'category' | 'pwd' | 'gender' | 'island'> = {
  15: 'all',
  7: 'category',
  11: 'pwd',
  13: 'gender',
  14: 'island',
}

/** The people of both runs with what each gives them, and the points that the second saves them. */
function bothRuns(firstId: string, secondId: string, policy: AllocationPolicy, notice: Notice): SQL {
  const islands = JSON.stringify(Object.fromEntries(notice.cities.map(c => [c.id, c.island])))
  const points = (run: 'a' | 'b') => {
    const { choiceCosts, offListBase, kilometreCap, unseated } = policy
    const column = (name: string) => sql.raw(`${run}.${name}`)
    return sql`case when ${column('city')} is null then ${unseated}::integer when ${column('choice')} is not null then (${
      sql.param(choiceCosts)
    }::integer[])[least(${column('choice')}, ${choiceCosts.length}::integer)]
      else ${offListBase}::integer + least(${kilometreCap}::integer, ${column('km')}) end`
  }
  return sql`select a.application_id, p.number, p.display_name as name, coalesce(p.answers->>'category', '') as category, coalesce(p.answers->>'pwd', '') as pwd, coalesce(p.answers->>'gender', '') as gender,
      coalesce(${islands}::jsonb->>a.home, '') as island, a.city as a_city, b.city as b_city, a.choice as a_choice, b.choice as b_choice, a.km as a_km, b.km as b_km, ${
    points('a')
  } - ${points('b')} as gain
    from run_placement a join run_placement b using (application_id) join application p on p.id = a.application_id where a.run_id = ${firstId} and b.run_id = ${secondId}`
}

interface PersonRow {
  application_id: string
  number: string
  name: string
  gain: string
  a_city: string | null
  b_city: string | null
  a_choice: number | null
  b_choice: number | null
  a_km: number | null
  b_km: number | null
}
type Counts =
  | 'people'
  | 'gain'
  | 'lose'
  | 'points_gained'
  | 'points_lost'
  | 'a_first'
  | 'b_first'
  | 'a_off'
  | 'b_off'
  | 'a_none'
  | 'b_none'
  | 'a_km'
  | 'b_km'
type GroupRow = Record<Counts, string> & { which: string, name: string | null }

const nobody: GroupRow = {
  which: '15',
  name: null,
  people: '0',
  gain: '0',
  lose: '0',
  points_gained: '0',
  points_lost: '0',
  a_first: '0',
  b_first: '0',
  a_off: '0',
  b_off: '0',
  a_none: '0',
  b_none: '0',
  a_km: '0',
  b_km: '0',
}

function comparedGroup(row: GroupRow): ComparedGroup {
  const n = (key: Counts) => Number(row[key])
  return {
    group: row.name ?? '',
    people: n('people'),
    gain: n('gain'),
    lose: n('lose'),
    same: n('people') - n('gain') - n('lose'),
    pointsGained: n('points_gained'),
    pointsLost: n('points_lost'),
    firstChoice: [n('a_first'), n('b_first')],
    offList: [n('a_off'), n('b_off')],
    unseated: [n('a_none'), n('b_none')],
    km: [n('a_km'), n('b_km')],
  }
}
