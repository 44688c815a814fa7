import { and, asc, eq, gt, gte, like, or, sql, type SQL } from 'drizzle-orm'
import { bandPoints, type Headline } from '../../../core/application/tracks'
import { nextKeyDate } from '../../../core/application/sheet'
import { listAnswer, textAnswer } from '../../../core/application/answers'
import { dateInZone, instantInZone } from '../../../core/calendar/zone'
import { nameKey } from '../../../core/identity/names'
import type { Band, RosterPage, RosterQuery, RosterRow } from '../../../shared/applications'
import { refusal } from '../../../shared/problem'
import { application, headlineChange, seat } from '../../database/schema'
import type { Caller, Context } from '../context'
import { currentNotice } from '../notice/notices'
import type { ApplicationRow } from './store'

/** One page of the live list, by key: the cost of a page does not grow with its place in the list. */
export async function readRoster(caller: Caller, cycle: string, query: RosterQuery): Promise<RosterPage> {
  return rosterPage(await caller.authorise('roster.read', { cycle }), cycle, query)
}

async function rosterPage(context: Context, cycle: string, query: RosterQuery): Promise<RosterPage> {
  const filters: (SQL | undefined)[] = [eq(application.cycle, cycle)]
  if (query.headline) filters.push(eq(application.headline, query.headline))
  if (query.fee) filters.push(eq(application.fee, query.fee))
  if (query.search?.trim()) filters.push(searchFilter(query.search))
  if (query.after) filters.push(afterFilter(query))
  const order = query.sort === 'waiting' ? [asc(application.headlineSince), asc(application.id)] : [asc(application.number)]
  const rows = await context.db.select().from(application).where(and(...filters)).orderBy(...order).limit(query.limit + 1)
  const page = rows.slice(0, query.limit)
  const last = page.at(-1)
  return { rows: page.map(rosterRow), next: rows.length > query.limit && last ? keyOf(last, query.sort) : null }
}

function keyOf(row: ApplicationRow, sort: RosterQuery['sort']): string {
  return sort === 'waiting' ? `${row.headlineSince.toISOString()}~${row.id}` : row.number
}

function afterFilter(query: RosterQuery): SQL | undefined {
  const key = query.after ?? ''
  if (query.sort === 'number') return gt(application.number, key)
  const [since, id] = key.split('~')
  if (!since || !id || Number.isNaN(Date.parse(since))) throw refusal('input.list-place', { value: key })
  // To the millisecond, as the key was written: the database keeps microseconds that the key has lost.
  return sql`(date_trunc('milliseconds', ${application.headlineSince}), ${application.id}) > (${since}::timestamptz, ${id}::uuid)`
}

/** A number, a name's beginning or a telephone's beginning. */
function searchFilter(search: string): SQL | undefined {
  const text = search.trim()
  const digits = text.replace(/\D/g, '')
  const escape = (value: string) => value.replace(/[\\%_]/g, '\\$&')
  const key = nameKey(text)
  const parts: SQL[] = [eq(application.number, text.toUpperCase())]
  if (key) parts.push(like(application.nameKey, `${escape(key)}%`), like(application.number, `${escape(text.toUpperCase())}%`))
  if (digits.length >= 4 && digits.length === text.replace(/[\s-]/g, '').length) parts.push(like(application.mobileKey, `${digits}%`))
  return or(...parts)
}

function rosterRow(row: ApplicationRow): RosterRow {
  return {
    id: row.id, number: row.number, name: row.displayName, mobile: textAnswer(row.answers, 'mobile'), category: textAnswer(row.answers, 'category'),
    posts: listAnswer(row.answers, 'posts'), headline: row.headline, since: row.headlineSince.toISOString(),
    submittedAt: row.submittedAt?.toISOString() ?? null, fee: row.fee,
  }
}

/** Up to ten people by application number, roll number, name or telephone: for the command field. */
export async function findPeople(caller: Caller, cycle: string, search: string): Promise<RosterRow[]> {
  const context = await caller.authorise('roster.read', { cycle })
  const text = search.trim()
  if (text === '') return []
  const [seated] = /^\d{8}$/.test(text)
    ? await context.db.select({ application }).from(seat).innerJoin(application, eq(application.id, seat.applicationId)).where(and(eq(seat.cycle, cycle), eq(seat.roll, text)))
    : []
  const { rows } = await rosterPage(context, cycle, { search: text, sort: 'number', limit: 10 })
  return seated ? [rosterRow(seated.application), ...rows] : rows
}

/** The band: how many applications stand at each point of the flow, and how many came to it since midnight. */
export async function readBand(caller: Caller, cycle: string): Promise<Band> {
  const context = await caller.authorise('cycles.read')
  const { notice } = await currentNotice(context.db, cycle)
  const now = context.now()
  const midnight = instantInZone(dateInZone(now, notice.body.zone), '00:00', notice.body.zone)
  const counts = await context.db.select({ headline: application.headline, n: sql<string>`count(*)` }).from(application)
    .where(eq(application.cycle, cycle)).groupBy(application.headline)
  const today = await context.db.select({ headline: headlineChange.to, n: sql<string>`count(*)` }).from(headlineChange)
    .where(and(eq(headlineChange.cycle, cycle), gte(headlineChange.at, midnight))).groupBy(headlineChange.to)
  const find = (rows: { headline: Headline, n: string }[], headline: Headline) => Number(rows.find(r => r.headline === headline)?.n ?? 0)
  return {
    cycle, title: notice.title, zone: notice.body.zone, now: now.toISOString(), clock: nextKeyDate(notice, now),
    points: bandPoints.map(headline => ({ headline, count: find(counts, headline), today: find(today, headline) })),
  }
}
