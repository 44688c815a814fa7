import { and, eq, gt, isNotNull, sql } from 'drizzle-orm'
import { addDays } from '../../../core/calendar/calendar-date'
import { isClosedDay } from '../../../core/calendar/closed-days'
import { dateInZone, instantInZone } from '../../../core/calendar/zone'
import { lanes, type Lane } from '../../../core/scrutiny/doubts'
import { outlook, type WorkedDay } from '../../../core/scrutiny/pace'
import type { Dossier } from '../../../shared/applications'
import type { QueueView, Taken } from '../../../shared/scrutiny'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { application, scrutinyCase } from '../../database/schema'
import type { Caller, Context } from '../context'
import { namesOf } from '../people/names'
import { currentNotice } from '../notice/notices'
import { countsBetween, countsUnder, quarterOf } from '../roster/tally'
import { sortPage } from './sorting'

/** Minutes for which a case stays with whoever took it, where the notice says nothing. */
const handMinutes = 20
/** Days of work that the pace is told from. */
const lookBack = 10

/**
 * Takes the next case in hand: of one queue, or of the first that has any. What two ask for at once goes to one of them. A case that
 * somebody holds comes back when its time is over; what waits for a second look is never handed to who decided first. `passed` are cases
 * that the reader has laid back.
 *
 * @returns null where there is none.
 */
export async function takeNext(
  caller: Caller,
  cycle: string,
  { lane, passed }: { lane?: Lane, passed: readonly string[] },
): Promise<Taken | null> {
  const context = await caller.authorise('scrutiny.decide', { cycle })
  // Cases that came a moment ago may still be being sorted by somebody else: before there is none, that is waited for.
  for (const patience of ['pass', 'wait'] as const) {
    await sortPage(context, cycle, patience)
    for (const one of lane ? [lane] : lanes.filter(l => l !== 'elsewhere')) {
      const taken = await context.db.transaction(tx => takeOf(tx, context, cycle, one, passed))
      if (taken) return taken
    }
  }
  return null
}

async function takeOf(tx: Executor, context: Context, cycle: string, lane: Lane, passed: readonly string[]): Promise<Taken | null> {
  const now = context.now().toISOString()
  const { rows: [found] } = await tx.execute<{ id: string }>(sql`select application_id as id from scrutiny_case
    where cycle = ${cycle} and lane = ${lane} and (held_by is null or held_until <= ${now}::timestamptz) and first_by is distinct from ${context.principal.id}::uuid and application_id <> all(${
    sql.param([...passed])
  }::uuid[])
    order by until, since, application_id limit 1 for update skip locked`)
  return found ? hold(tx, context, cycle, found.id) : null
}

async function hold(tx: Executor, context: Context, cycle: string, id: string): Promise<Taken> {
  const { notice } = await currentNotice(tx, cycle)
  const until = new Date(context.now().getTime() + (notice.scrutiny?.handMinutes ?? handMinutes) * 60_000)
  await tx.update(scrutinyCase).set({ heldBy: context.principal.id, heldUntil: until }).where(eq(scrutinyCase.applicationId, id))
  return { id, until: until.toISOString() }
}

/**
 * Takes one case in hand that somebody has opened, or keeps it for longer; null where it does not wait. @throws ProblemError `case.in-hand`
 * when somebody else has it.
 */
export async function takeInHand(caller: Caller, id: string): Promise<Taken | null> {
  const context = await caller.authorise('scrutiny.decide', { application: id })
  return context.db.transaction(async (tx) => {
    const [one] = await tx.select().from(scrutinyCase).where(eq(scrutinyCase.applicationId, id)).for('update')
    if (!one || one.lane === 'elsewhere') return null
    await refuseInOtherHands(tx, context, one)
    return hold(tx, context, one.cycle, id)
  })
}

/** Lays a case back into its queue, for whoever comes next. */
export async function layBack(caller: Caller, id: string): Promise<void> {
  const { db, principal } = await caller.authorise('scrutiny.decide', { application: id })
  await db.update(scrutinyCase).set({ heldBy: null, heldUntil: null })
    .where(and(eq(scrutinyCase.applicationId, id), eq(scrutinyCase.heldBy, principal.id)))
}

/** Refuses to decide on what somebody else has in hand. */
export async function refuseOtherHands(tx: Executor, context: Context, id: string): Promise<void> {
  const [one] = await tx.select().from(scrutinyCase).where(eq(scrutinyCase.applicationId, id))
  if (one) await refuseInOtherHands(tx, context, one)
}

async function refuseInOtherHands(
  tx: Executor,
  context: Context,
  { heldBy, heldUntil }: Pick<typeof scrutinyCase.$inferSelect, 'heldBy' | 'heldUntil'>,
): Promise<void> {
  if (!heldBy || heldBy === context.principal.id || !heldUntil || heldUntil <= context.now()) return
  throw refusal('case.in-hand', {
    by: (await namesOf(tx, [heldBy]))(heldBy),
    minutes: Math.ceil((heldUntil.getTime() - context.now().getTime()) / 60_000),
  })
}

/** Where an application stands in the queue, and who has it in hand, as its dossier shows it. */
export async function handOf({ db, principal, now }: Context, id: string): Promise<Dossier['hand']> {
  const [one] = await db.select().from(scrutinyCase).where(eq(scrutinyCase.applicationId, id))
  if (!one) return null
  const held = one.heldBy !== null && one.heldUntil !== null && one.heldUntil > now() ? one.heldBy : null
  return {
    lane: one.lane,
    doubts: one.doubts,
    by: held === null ? null : (await namesOf(db, [held]))(held),
    isOwn: held === principal.id,
    until: held === null ? null : one.heldUntil?.toISOString() ?? null,
    isOwnFirst: one.firstBy === principal.id,
  }
}

/** The queues with their counts and oldest cases, who has what in hand, and when the work will be done at the present pace. */
export async function readQueue(caller: Caller, cycle: string): Promise<QueueView> {
  const context = await caller.authorise('scrutiny.read', { cycle })
  const { db, principal } = context
  const { notice } = await currentNotice(db, cycle)
  const now = context.now()
  const counts = await countsUnder(db, cycle, 'lane:')
  const waiting = (await countsUnder(db, cycle, 'at:')).get('in scrutiny') ?? 0
  const { rows: oldest } = await db.execute<
    { lane: Lane, oldest: string | null, until: string | null }
  >(sql`select lane, o.since as oldest, o.until from unnest(${sql.param([...lanes])}::text[]) as one(lane)
    left join lateral (select c.since, c.until from scrutiny_case c where c.cycle = ${cycle} and c.lane = one.lane order by c.until, c.since, c.application_id limit 1) o on true`)
  const sorted = [...counts.values()].reduce((a, b) => a + b, 0)
  const worked = await workOf(context, cycle)
  const held = await db.select({ by: scrutinyCase.heldBy, n: sql<string>`count(*)` }).from(scrutinyCase)
    .where(and(eq(scrutinyCase.cycle, cycle), isNotNull(scrutinyCase.heldBy), gt(scrutinyCase.heldUntil, now))).groupBy(scrutinyCase.heldBy)
  const own = await db.select({
    id: application.id,
    number: application.number,
    name: application.displayName,
    lane: scrutinyCase.lane,
    until: scrutinyCase.heldUntil,
  }).from(scrutinyCase).innerJoin(application, eq(application.id, scrutinyCase.applicationId))
    .where(and(eq(scrutinyCase.heldBy, principal.id), gt(scrutinyCase.heldUntil, now), eq(scrutinyCase.cycle, cycle)))
    .orderBy(scrutinyCase.heldUntil).limit(50)
  const people = [...new Set([...held.flatMap(one => one.by ?? []), ...worked.people.keys()])]
  const name = await namesOf(db, people)
  const zero = { today: 0, lastHour: 0, days: worked.days.map(() => 0) }
  return {
    lanes: lanes.map((lane) => {
      const first = oldest.find(one => one.lane === lane)
      const instant = (at: string | null | undefined) => at ? new Date(at).toISOString() : null
      return { lane, count: counts.get(lane) ?? 0, oldest: instant(first?.oldest), until: instant(first?.until) }
    }),
    unsorted: Math.max(0, waiting - sorted),
    people: people.map(id => ({
      id,
      name: name(id),
      inHand: Number(held.find(one => one.by === id)?.n ?? 0),
      ...worked.people.get(id) ?? zero,
    })).sort((a, b) => b.today - a.today || (a.name < b.name ? -1 : 1)),
    days: worked.days,
    outlook: outlook(waiting, worked.days, dateInZone(now, notice.body.zone), notice.body),
    own: own.map(one => ({
      id: one.id,
      number: one.number,
      name: one.name,
      lane: one.lane ?? 'plain',
      until: one.until?.toISOString() ?? '',
    })),
    handMinutes: notice.scrutiny?.handMinutes ?? handMinutes,
  }
}

interface Worked {
  days: WorkedDay[]
  people: Map<string, { today: number, lastHour: number, days: number[] }>
}

/**
 * What was decided, and came, on the last days of work; today apart. From counts by quarter of an hour, which fit every zone's midnight.
 */
async function workOf({ db, now: clock }: Context, cycle: string): Promise<Worked> {
  const { notice: { body } } = await currentNotice(db, cycle)
  const now = clock()
  const today = dateInZone(now, body.zone)
  const midnight = (day: string) => quarterOf(instantInZone(day, '00:00', body.zone))
  const days: string[] = []
  for (let day = addDays(today, -1); days.length < lookBack && day > addDays(today, -60); day = addDays(day, -1)) {
    if (!isClosedDay(body, day)) days.unshift(day)
  }
  const first = midnight(days[0] ?? today)
  const decided = [...await countsBetween(db, cycle, `decided@${first}`, 'decided@:')].map(([tag, n]) => ({
    quarter: tag.slice(8, 16),
    by: tag.slice(17),
    n,
  }))
  const came = [...await countsBetween(db, cycle, `came@${first}`, 'came@:')].filter(([tag]) => tag.endsWith(':in scrutiny')).map(
    ([tag, n]) => ({ quarter: tag.slice(5, 13), n })
  )
  const within = (quarter: string, day: string) => quarter >= midnight(day) && quarter < midnight(addDays(day, 1))
  const sum = (list: readonly { n: number }[]) => list.reduce((total, one) => total + one.n, 0)
  const hourAgo = quarterOf(new Date(now.getTime() - 3_600_000))
  const people = new Map([...new Set(decided.map(one => one.by))].map((by) => {
    const own = decided.filter(one => one.by === by)
    return [by, {
      today: sum(own.filter(one => one.quarter >= midnight(today))),
      lastHour: sum(own.filter(one => one.quarter >= hourAgo)),
      days: days.map(day => sum(own.filter(one => within(one.quarter, day)))),
    }] as const
  }))
  const worked = days.map(day => ({
    day,
    decided: sum(decided.filter(one => within(one.quarter, day))),
    came: sum(came.filter(one => within(one.quarter, day))),
  }))
  // Days before anybody began tell nothing of the pace.
  const began = worked.findIndex(one => one.decided > 0)
  return {
    days: began < 0 ? [] : worked.slice(began),
    people: new Map([...people].map(([by, of]) => [by, { ...of, days: began < 0 ? [] : of.days.slice(began) }])),
  }
}
