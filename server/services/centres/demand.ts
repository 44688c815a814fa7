import { sql } from 'drizzle-orm'
import { everyDay, forecast, shortSince, type DayCount } from '../../../core/allocation/demand'
import { addDays, type CalendarDate } from '../../../core/calendar/calendar-date'
import { dateInZone, instantInZone } from '../../../core/calendar/zone'
import type { Notice } from '../../../core/notice/schema'
import { venueSeats } from '../../../core/seating/seats'
import { outcomeOf } from '../../../core/allocation/outcome'
import type { CityDemand, DemandView, TrialView } from '../../../shared/centres'
import { refusal } from '../../../shared/refusal'
import { clockOf } from '../../database/zone'
import type { Caller, Context } from '../context'
import { currentNotice } from '../notice/notices'
import { readInputs } from './inputs'
import { placeAll } from './place-all'
import { policyOf } from './runs'
import type { Solver } from './solver'

/** Demand against seats by city as it stands, with what it will be if days go on as before. */
export async function readDemand(caller: Caller, cycleCode: string): Promise<DemandView> {
  const context = await caller.authorise('centres.read')
  const { notice } = await currentNotice(context.db, cycleCode)
  const now = context.now()
  const { total, byDay, anyChoice } = await countChoices(context, cycleCode, notice)
  const today = dateInZone(now, notice.body.zone)
  const first = [...total.keys()].sort()[0] ?? today
  const closes = new Date(notice.keyDates.closes)
  // From this morning to the close; nothing is left once it is past.
  const daysLeft = now > closes ? 0 : (closes.getTime() - instantInZone(today, '00:00', notice.body.zone).getTime()) / 86_400_000
  const allDays = everyDay(total, first, today, day => addDays(day, 1))
  const foresee = (days: DayCount[]) => {
    const whole = days.slice(0, -1)
    const before = whole.reduce((n, d) => n + d.count, 0)
    const range = daysLeft > 0 ? forecast(whole, before, daysLeft) : null
    // What came in today already is the least there will be.
    const least = before + (days.at(-1)?.count ?? 0)
    return range && { low: Math.max(least, range.low), middle: Math.max(least, range.middle), high: Math.max(least, range.high) }
  }
  const seats = venueSeats(notice)
  const rows = notice.cities.map((city): CityDemand => {
    const days = everyDay(byDay.get(city.id) ?? new Map<string, number>(), first, today, day => addDays(day, 1))
    const own = seats.filter(s => s.city === city.id)
    const sum = own.reduce((n, s) => n + s.seats, 0)
    return {
      city: city.id,
      seats: sum,
      accessibleSeats: own.reduce((n, s) => n + s.accessibleSeats, 0),
      firstChoice: days.reduce((n, d) => n + d.count, 0),
      anyChoice: anyChoice.get(city.id) ?? 0,
      shortSince: shortSince(days, sum),
      forecastFirst: foresee(days),
    }
  })
  const range = foresee(allDays)
  return {
    at: now.toISOString(),
    closes: closes.toISOString(),
    applications: allDays.reduce((n, d) => n + d.count, 0),
    byDay: allDays.map(d => ({ day: d.day, submitted: d.count })),
    cities: rows,
    forecast: range && { ...range, days: Math.ceil(daysLeft) },
  }
}

/** Applications by day, and by city the seats that they want who name it first, by day, and who name it at any place. */
type Counted = { total: Map<CalendarDate, number>, byDay: Map<string, Map<CalendarDate, number>>, anyChoice: Map<string, number> }

/** One pass over the sheets that were handed in and still count: first choices by day, and any choices. */
async function countChoices(context: Context, cycleCode: string, notice: Notice): Promise<Counted> {
  const [list] = notice.sections.flatMap(s => s.questions).filter(q => q.kind === 'cities')
  if (!list) throw refusal('demand.no-cities')
  // Somebody who sits several test papers wants as many seats.
  const papers = JSON.stringify(Object.fromEntries(notice.posts.map(post => [post.id, post.testPapers])))
  const weight = notice.testPapers.length === 0
    ? sql`1`
    : sql`greatest(1, (select count(distinct paper) from jsonb_array_elements_text(case when jsonb_typeof(answers->'posts') = 'array' then answers->'posts' else '[]'::jsonb end) as post, jsonb_array_elements_text(${papers}::jsonb->post) as paper))`
  const { rows } = await context.db.execute(sql`
    with handed_in as (
      select answers->${list.id}::text as cities, ${weight} as weight, ${clockOf(sql`submitted_at`, notice.body.zone)}::date as day
      from application where cycle = ${cycleCode} and headline in ('fee due', 'in scrutiny', 'returned', 'accepted', 'placed', 'card issued') and submitted_at is not null)
    select c.value as city, case when c.place = 1 then to_char(day, 'YYYY-MM-DD') end as day, count(*) as n, sum(weight) as seats
    from handed_in, jsonb_array_elements_text(cities) with ordinality as c(value, place) group by 1, 2`)
  const result: Counted = { total: new Map(), byDay: new Map(), anyChoice: new Map() }
  for (const { city, day, n, seats } of rows as { city: string, day: string | null, n: string, seats: string }[]) {
    result.anyChoice.set(city, (result.anyChoice.get(city) ?? 0) + Number(seats))
    if (day === null) continue
    result.total.set(day, (result.total.get(day) ?? 0) + Number(n))
    const days = result.byDay.get(city) ?? new Map<string, number>()
    result.byDay.set(city, days.set(day, Number(seats)))
  }
  return result
}

/** What a run would give if the window closed now and scrutiny accepted everyone: computed, not kept. */
export async function tryNow(caller: Caller, cycleCode: string, solve: Solver): Promise<TrialView> {
  const context = await caller.authorise('centres.run')
  const { notice } = await currentNotice(context.db, cycleCode)
  const policy = policyOf(notice, { policy: {}, scope: 'waiting' })
  const read = await readInputs(context.db, cycleCode, notice, policy, { scope: 'applied', seats: [] })
  if (read.instance.ids.length === 0) throw refusal('demand.nobody')
  const { inputs: { instance }, allocation } = await placeAll(notice, read, policy, solve)
  return {
    outcome: outcomeOf(instance, allocation),
    cost: allocation.cost,
    bound: allocation.bound,
    standing: allocation.standing,
    at: context.now().toISOString(),
  }
}
