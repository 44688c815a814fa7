import { and, asc, eq, or, sql } from 'drizzle-orm'
import type { FacetValue, RosterCount, RosterFilter, RosterRow, RosterView } from '../../../shared/applications'
import { refusal } from '../../../shared/refusal'
import type { Cell, OutgoingTable } from '../../../tables/stream'
import { rosterView } from '../../database/schema'
import type { Caller } from '../context'
import { namesOf } from '../people/names'
import { askedOf, wholeOf } from './filter'
import { readRoster } from './page'
import { countsOf, countsUnder } from './tally'

/** Counts up to here are exact. */
const exactBelow = 10_000
/** Entries that a sample has, about. */
const sampleOf = 20_000

/**
 * How many applications match: exact where the counts that are kept tell it, or where there are fewer than ten thousand; else estimated
 * from a sample of the entries, with the range that holds in nineteen cases of twenty (normal approximation of the binomial; Wald's
 * interval).
 */
export async function countRoster(caller: Caller, cycle: string, filter: RosterFilter): Promise<RosterCount> {
  const { db } = await caller.authorise('roster.read', { cycle })
  const asked = askedOf(cycle, filter)
  const exact = (n: number): RosterCount => ({ n, isExact: true, low: n, high: n })
  const { headline, groups, rest, sought } = asked
  if (!rest && !sought && groups.length + (headline ? 1 : 0) <= 1 && (groups[0]?.length ?? 1) === 1) {
    const points = await countsUnder(db, cycle, 'at:')
    if (headline) return exact(points.get(headline) ?? 0)
    const [tag] = groups[0] ?? []
    return exact(tag ? (await countsOf(db, cycle, [tag])).get(tag) ?? 0 : [...points.values()].reduce((a, b) => a + b, 0))
  }
  const condition = wholeOf(asked)
  const { rows: [size] } = await db.execute<{ n: string }>(sql`select reltuples::bigint as n from pg_class where relname = 'roster_entry'`)
  const all = Number(size?.n ?? 0)
  if (all > 5 * sampleOf) {
    const share = Math.min(100, 100 * sampleOf / all)
    const { rows: [seen] } = await db.execute<
      { looked: string, hits: string }
    >(sql`select count(*) as looked, count(*) filter (where ${condition}) as hits from roster_entry e tablesample system (${
      sql.raw(share.toFixed(4))
    })`)
    const [looked, hits] = [Number(seen?.looked), Number(seen?.hits)]
    if (looked > 0 && hits / looked * all > exactBelow * 1.5) {
      const part = hits / looked
      const spread = 1.96 * Math.sqrt(part * (1 - part) / looked) * all
      return {
        n: Math.round(part * all),
        isExact: false,
        low: Math.max(0, Math.floor(part * all - spread)),
        high: Math.ceil(part * all + spread),
      }
    }
  }
  const { rows: [counted] } = await db.execute<{ n: string }>(sql`select count(*) as n from roster_entry e where ${condition}`)
  return exact(Number(counted?.n))
}

/** The values of a facet with how many applications of the cycle have each, the most first. */
export async function facetValues(caller: Caller, cycle: string, facet: string): Promise<FacetValue[]> {
  const { db } = await caller.authorise('roster.read', { cycle })
  const beginning = `${facet}${facet.startsWith('q:') || facet.startsWith('first:') ? '=' : ':'}`
  const values = [...await countsUnder(db, cycle, beginning)].map(([value, n]): FacetValue => ({ tag: `${beginning}${value}`, n })).sort((
    a,
    b,
  ) => b.n - a.n || (a.tag < b.tag ? -1 : 1)).slice(0, 500)
  if (facet !== 'by') return values
  const name = await namesOf(db, values.map(({ tag }) => tag.slice(beginning.length)))
  return values.map(value => ({ ...value, name: name(value.tag.slice(beginning.length)) }))
}

/** Everybody who matches as a table, page after page. Moments are of ISO 8601 in UTC; tags stand as they are. */
export async function rosterTable(caller: Caller, cycle: string, filter: RosterFilter): Promise<OutgoingTable> {
  await caller.authorise('roster.read', { cycle })
  return { title: `Roster ${cycle}`, columns: tableColumns, pages: tablePages(caller, cycle, filter) }
}

const tableColumns = ['number', 'name', 'telephone', 'category', 'posts', 'stands_at', 'since', 'submitted_at', 'fee', 'tags'] as const

async function* tablePages(caller: Caller, cycle: string, filter: RosterFilter): AsyncGenerator<Cell[][]> {
  for (let after: string | undefined;;) {
    const { rows, next } = await readRoster(caller, cycle, { ...filter, sort: 'number', limit: 500, after })
    yield rows.map(tableRow)
    if (!next) return
    after = next
  }
}

const tableRow =
  (row: RosterRow): Cell[] => [row.number, row.name, row.mobile, row.category, row.posts, row.headline, row.since, row.submittedAt ?? '',
    row.fee, row.tags]

/** Questions to the roster that are kept under a name: one's own, and those that the office shares. */
export async function listViews(caller: Caller, cycle: string): Promise<RosterView[]> {
  const { db, principal } = await caller.authorise('roster.read', { cycle })
  const rows = await db.select().from(rosterView)
    .where(and(eq(rosterView.cycle, cycle), or(rosterView.isShared, eq(rosterView.by, principal.id)))).orderBy(asc(rosterView.title))
    .limit(100)
  const name = await namesOf(db, rows.map(row => row.by))
  return rows.map(row => ({
    id: row.id,
    title: row.title,
    query: row.query,
    by: name(row.by),
    isOwn: row.by === principal.id,
    isShared: row.isShared,
  }))
}

/** Keeps a question under an id that the caller made: the same one again changes it. */
export async function keepView(
  caller: Caller,
  cycle: string,
  id: string,
  view: Pick<RosterView, 'title' | 'query' | 'isShared'>,
): Promise<void> {
  const { db, principal, now } = await caller.authorise('roster.read', { cycle })
  const { rowCount } = await db.insert(rosterView).values({ id, cycle, ...view, by: principal.id, at: now() }).onConflictDoUpdate({
    target: rosterView.id,
    set: { ...view, at: now() },
    setWhere: eq(rosterView.by, principal.id),
  })
  if (rowCount === 0) throw refusal('roster.view-of-other')
}

/** Takes a question of one's own away. */
export async function dropView(caller: Caller, cycle: string, id: string): Promise<void> {
  const { db, principal } = await caller.authorise('roster.read', { cycle })
  await db.delete(rosterView).where(and(eq(rosterView.id, id), eq(rosterView.by, principal.id)))
}
