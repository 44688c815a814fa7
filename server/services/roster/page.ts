import { and, eq, inArray, sql, type SQL } from 'drizzle-orm'
import { listAnswer, textAnswer } from '../../../core/application/answers'
import { nextKeyDate } from '../../../core/application/sheet'
import { bandPoints, headlines } from '../../../core/application/tracks'
import { dateInZone, instantInZone } from '../../../core/calendar/zone'
import type { Band, RosterFilter, RosterPage, RosterQuery, RosterRow } from '../../../shared/applications'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { application, paperForm, seat } from '../../database/schema'
import type { Caller } from '../context'
import { currentNotice } from '../notice/notices'
import { findAlike } from './alike'
import { askedOf, conditionOf, placeOf, wholeOf, type Asked } from './filter'
import { countsBetween, countsOf, quarterOf } from './tally'

/** Where a row stands in the list: what it is sorted by, to the last digit. */
interface Key extends Record<string, unknown> {
  id: string
  number: string
  since: string
}
type Order = Pick<RosterQuery, 'sort' | 'after' | 'limit'>

/**
 * Entries that are looked through for a page before the index of tags or words is asked; fewer where a name is asked for, which few bear.
 */
const [firstWindow, joinedWindow, nameWindow] = [20_000, 15_000, 4_000]
/**
 * Where the first entries tell that a word's beginning fills a page within so many, they are looked through; else its index is asked, which
 * then has few to sort.
 */
const furtherAtMost = 30_000
/** So many at most are fetched by that index and sorted; so few at once, without looking for them in the list's order first. */
const [fewEnough, fewAtOnce] = [60_000, 15_000]
/** Or so few where facets that many bear are expected to meet in hardly anybody. */
const rarelyTogether = 2_000

/** One page of the live list, by key: the cost of a page does not grow with its place in the list. */
export async function readRoster(caller: Caller, cycle: string, query: RosterQuery): Promise<RosterPage> {
  const { db, principal } = await caller.authorise('roster.read', { cycle })
  return rosterPage(db, principal.id, askedOf(cycle, query), query)
}

async function rosterPage(db: Executor, reader: string, asked: Asked, order: Order): Promise<RosterPage> {
  const keys = await keysOf(db, asked, order)
  const page = keys.slice(0, order.limit)
  const last = page.at(-1)
  return {
    rows: await rosterRows(db, reader, page.map(key => key.id)),
    next: keys.length > order.limit && last ? keyOf(last, order.sort) : null,
  }
}

/** Others whose names are spelt or sound like the one that is searched for; nobody where a number is. */
export async function readAlike(caller: Caller, cycle: string, filter: RosterFilter): Promise<RosterRow[]> {
  const { db, principal } = await caller.authorise('roster.read', { cycle })
  const asked = askedOf(cycle, filter)
  return asked.words.length === 0 ? [] : rosterRows(db, principal.id, await findAlike(db, asked))
}

const keyOf = (key: Key, sort: Order['sort']): string => sort === 'waiting' ? `${key.since}~${key.id}` : key.number
const sorted = (sort: Order['sort']): SQL => sort === 'waiting' ? sql`e.since, e.application_id` : sql`e.number`

function afterOf({ sort, after }: Pick<Order, 'sort' | 'after'>): SQL {
  if (!after) return sql`true`
  if (sort === 'number') return sql`e.number > ${after}`
  const [since, id] = after.split('~')
  if (!since || !id || Number.isNaN(Date.parse(since)) || !/^[0-9a-f-]{36}$/.test(id)) throw refusal('input.list-place', { value: after })
  return sql`(e.since, e.application_id) > (${since}::timestamptz, ${id}::uuid)`
}

/**
 * The keys of one page and of the row after it. Entries are looked through in the list's order as long as that soon fills a page. What is
 * rare is found by the index of its tags or words, and sorted; which of both is told by the counts that are kept.
 */
export async function keysOf(db: Executor, asked: Asked, order: Order): Promise<Key[]> {
  const condition = conditionOf(asked)
  const columns = sql`e.application_id as id, e.number, e.since::text as since`
  const by = sorted(order.sort)
  const wanted = order.limit + 1
  if (!condition) {
    const { rows } = await db.execute<
      Key
    >(sql`select ${columns} from roster_entry e where ${placeOf(asked)} and ${afterOf(order)} order by ${by} limit ${wanted}`)
    return rows
  }
  const { least, expected } = await rarity(db, asked)
  if (least === 0) return []
  const byIndex = async () =>
    (await db.execute<
      Key
    >(sql`with hit as materialized (select e.application_id, e.number, e.since from roster_entry e where ${wholeOf(asked)})
    select ${columns} from hit e where ${afterOf(order)} order by ${by} limit ${wanted}`)).rows
  if (!asked.sought && (least <= fewAtOnce || expected <= rarelyTogether)) return byIndex()
  const found: Key[] = []
  // Many names begin with two or three letters.
  const isShort = asked.words.length === 1 && (asked.words[0]?.length ?? 0) <= 3
  const isJoined = asked.groups.length + (asked.headline ? 1 : 0) > 1
  for (
    let window = asked.sought ? nameWindow : isJoined ? joinedWindow : firstWindow, after = order.after;;
    window = isShort ? 2 * furtherAtMost : window * 2
  ) {
    const place = sql`${placeOf(asked)} and ${afterOf({ sort: order.sort, after })}`
    const { rows } = await db.execute<
      Key
    >(sql`select ${columns} from (select * from roster_entry e where ${place} order by ${by} limit ${window}) e where ${condition} limit ${
      wanted - found.length
    }`)
    found.push(...rows)
    if (found.length >= wanted) return found
    const { rows: [end] } = await db.execute<
      Key
    >(sql`select ${columns} from roster_entry e where ${place} order by ${by} offset ${window - 1} limit 1`)
    if (!end) return found
    // Two that many bear may be borne together by hardly anybody: their index tells at once. Where the page will soon be full, going on is
    // quicker, above all for a word's beginning of few letters.
    const isSoonFull = found.length * (isShort ? furtherAtMost : 2 * firstWindow) >= window * wanted
    if (!isSoonFull && (asked.sought || least <= fewEnough || isJoined)) return byIndex()
    after = keyOf(end, order.sort)
  }
}

/**
 * How many applications bear the rarest of the facets that are asked for besides the point of the flow, and how many would bear all of them
 * with it, did none hang on another.
 */
async function rarity(db: Executor, { cycle, groups, headline }: Asked): Promise<{ least: number, expected: number }> {
  const counts = await countsOf(db, cycle, [...groups.flat(), ...headlines.map(point => `at:${point}`)])
  const borne = groups.map(group => group.reduce((sum, tag) => sum + (counts.get(tag) ?? 0), 0))
  const all = headlines.reduce((sum, point) => sum + (counts.get(`at:${point}`) ?? 0), 0)
  const shares = [...borne, ...headline === null ? [] : [counts.get(`at:${headline}`) ?? 0]].map(n => n / Math.max(1, all))
  return { least: Math.min(Infinity, ...borne), expected: shares.reduce((product, share) => product * share, all) }
}

/**
 * The rows of some applications as the list shows them, in the order given; those that are gone are left out. Of a paper form that the
 * reader keys a second time it shows nothing that the first has keyed.
 */
async function rosterRows(db: Executor, reader: string, ids: readonly string[]): Promise<RosterRow[]> {
  if (ids.length === 0) return []
  const rows = await db.select().from(application).where(inArray(application.id, [...ids]))
  const { rows: tagged } = await db.execute<
    { id: string, tags: string[] }
  >(sql`select application_id as id, tags from roster_entry where application_id = any(${sql.param([...ids])}::uuid[])`)
  const tags = new Map(tagged.map(row => [row.id, row.tags]))
  const keyed = rows.filter(row => row.keying === 'second').map(row => row.id)
  const own = keyed.length === 0
    ? []
    : await db.select({ id: paperForm.applicationId }).from(paperForm)
      .where(and(inArray(paperForm.applicationId, keyed), eq(paperForm.secondBy, reader)))
  const found = new Map(rows.map(row => [row.id, own.some(one => one.id === row.id) ? { ...row, displayName: '', answers: {} } : row]))
  return ids.flatMap(id => found.get(id) ?? []).map(row => ({
    id: row.id,
    number: row.number,
    name: row.displayName,
    mobile: textAnswer(row.answers, 'mobile'),
    category: textAnswer(row.answers, 'category'),
    posts: listAnswer(row.answers, 'posts'),
    headline: row.headline,
    since: row.headlineSince.toISOString(),
    submittedAt: row.submittedAt?.toISOString() ?? null,
    fee: row.fee,
    tags: tags.get(row.id) ?? [],
  }))
}

/** Up to ten people by application number, roll number, name or telephone: for the command field. */
export async function findPeople(caller: Caller, cycle: string, search: string): Promise<RosterRow[]> {
  const { db, principal } = await caller.authorise('roster.read', { cycle })
  const text = search.trim()
  if (text === '') return []
  const seated = /^\d{8}$/.test(text)
    ? await db.select({ id: seat.applicationId }).from(seat)
      .where(sql`${eq(seat.cycle, cycle)} and ${eq(seat.roll, text)} and ${eq(seat.ordinal, 0)}`)
    : []
  const first = await rosterRows(db, principal.id, seated.map(row => row.id))
  const { rows } = await rosterPage(db, principal.id, askedOf(cycle, { search: text }), { sort: 'number', limit: 10 })
  const alike = first.length + rows.length === 0 ? await readAlike(caller, cycle, { search: text }) : []
  return [...first, ...rows, ...alike].slice(0, 10)
}

/** The band: how many applications stand at each point of the flow, and how many came to it since midnight. */
export async function readBand(caller: Caller, cycle: string): Promise<Band> {
  const context = await caller.authorise('cycles.read')
  const { notice } = await currentNotice(context.db, cycle)
  const now = context.now()
  const midnight = instantInZone(dateInZone(now, notice.body.zone), '00:00', notice.body.zone)
  const counts = await countsOf(context.db, cycle, bandPoints.map(headline => `at:${headline}`))
  const arrivals = await countsBetween(context.db, cycle, `came@${quarterOf(midnight)}`, 'came@:')
  const today = (headline: string) => [...arrivals].reduce((sum, [tag, n]) => tag.endsWith(`:${headline}`) ? sum + n : sum, 0)
  return {
    cycle,
    title: notice.title,
    zone: notice.body.zone,
    now: now.toISOString(),
    clock: nextKeyDate(notice, now),
    points: bandPoints.map(headline => ({ headline, count: counts.get(`at:${headline}`) ?? 0, today: today(headline) })),
  }
}
