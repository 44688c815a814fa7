import { and, asc, eq, gt, isNotNull, isNull, ne, sql, type SQL } from 'drizzle-orm'
import { periodRefusal } from '../../../core/application/acts/dates'
import { whyHere } from '../../../core/allocation/why'
import { inOrder, InstanceBuilder, type Instance } from '../../../core/allocation/instance'
import { RestrictedClasses } from '../../../core/allocation/restrictions'
import type { RunDetail, RunPeople, RunPeopleQuery, RunPerson, WhyView } from '../../../shared/centres'
import { refusal } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { application, runPlacement } from '../../database/schema'
import { nameKey } from '../../../core/identity/names'
import { likeText } from '../../database/text'
import type { Caller } from '../context'
import { namesOf } from '../people/names'
import { currentNotice } from '../notice/notices'
import { missingSeats } from './publish'
import { runRow, storedRun, type StoredRun } from './runs'

/** One run as a whole. */
export async function readRun(caller: Caller, runId: string): Promise<RunDetail> {
  const context = await caller.authorise('centres.read')
  const run = await storedRun(context.db, runId)
  const { notice } = await currentNotice(context.db, run.cycle)
  return { ...runRow(run, await namesOf(context.db, [run.by, run.publishedBy])), early: periodRefusal(notice, 'publication', context.now()), seats: run.seats, savings: run.savings, restrictions: run.restrictions.map(r => r.title), missing: missingSeats(run, notice), moves: run.moves }
}

const moved = and(isNotNull(runPlacement.told), sql`${runPlacement.told} is distinct from ${runPlacement.city}`)

const columns = {
  applicationId: application.id, number: application.number, name: application.displayName, city: runPlacement.city, choice: runPlacement.choice, km: runPlacement.km,
  cost: runPlacement.cost, choices: runPlacement.choices, home: runPlacement.home, needs: runPlacement.needs, told: runPlacement.told, locked: runPlacement.locked, place: runPlacement.place,
}

/** People of a run, a page by key. */
export async function readRunPeople(caller: Caller, runId: string, query: RunPeopleQuery): Promise<RunPeople> {
  const context = await caller.authorise('centres.read')
  const kinds: Record<NonNullable<RunPeopleQuery['kind']>, SQL | undefined> = {
    'off list': and(isNotNull(runPlacement.city), isNull(runPlacement.choice)), 'no seat': isNull(runPlacement.city), 'moved': moved, 'locked': eq(runPlacement.locked, true),
  }
  const key = query.search ? nameKey(query.search) : ''
  const rows: RunPerson[] = await context.db.select(columns).from(runPlacement).innerJoin(application, eq(application.id, runPlacement.applicationId)).where(and(
    eq(runPlacement.runId, runId), query.city ? eq(runPlacement.city, query.city) : undefined, query.choice ? eq(runPlacement.choice, query.choice) : undefined,
    query.kind ? kinds[query.kind] : undefined, query.after ? gt(application.number, query.after) : undefined,
    query.search ? sql`(${application.number} like ${`${likeText(query.search.toUpperCase())}%`} or (${key} <> '' and ${application.nameKey} like ${`${likeText(key)}%`}))` : undefined,
  )).orderBy(asc(application.number)).limit(query.limit + 1)
  const people = rows.slice(0, query.limit)
  return { people, next: rows.length > query.limit ? people.at(-1)?.number ?? null : null }
}

/** Why somebody is where a run put them, in words fit for a letter. */
export async function readWhy(caller: Caller, runId: string, applicationId: string): Promise<WhyView> {
  const context = await caller.authorise('centres.read')
  const run = await storedRun(context.db, runId)
  const [person] = await context.db.select({ ...columns, held: runPlacement.held }).from(runPlacement).innerJoin(application, eq(application.id, runPlacement.applicationId))
    .where(and(eq(runPlacement.runId, runId), eq(runPlacement.applicationId, applicationId)))
  if (!person) throw refusal('run.person-unknown')
  if (run.cities.length === 0) throw refusal('run.reasons-not-kept', { serial: run.serial })
  const { notice } = await currentNotice(context.db, run.cycle)
  const classes = new RestrictedClasses(run.restrictions)
  const of = classes.classOf(person.held, person.home)
  const why = whyHere({ ...person, id: person.number, class: of }, {
    bars: classes.bars(inOrder(run.cities)),
    cities: run.cities, policy: run.policy, prices: pricesOf(run), lines: run.lines, placed: new Map(run.summary.cities.map(c => [c.city, { all: c.placed, inNeed: c.placedInNeed }])),
  })
  const title = (id: string) => notice.cities.find(c => c.id === id)?.title ?? id
  const { byHandWords, whyWords } = context.language.allocation
  const words = person.locked ? [byHandWords(title(person.city ?? ''))] : whyWords(why, title)
  return { person, why, words, serial: run.serial }
}

function pricesOf({ cities, summary }: StoredRun) {
  const of = (id: string) => summary.cities.find(c => c.city === id)
  return { seat: Float64Array.from(cities, c => of(c.id)?.price ?? 0), accessibleSeat: Float64Array.from(cities, c => of(c.id)?.accessiblePrice ?? 0) }
}

/** The question a run was asked, as it was kept: people placed by hand are not part of it. */
export async function instanceOfRun(db: Executor, run: StoredRun): Promise<Instance> {
  if (run.cities.length === 0) throw refusal('run.question-not-kept', { serial: run.serial })
  const builder = new InstanceBuilder(run.cities, Math.max(1, run.summary.byChoice.length), 'instant')
  const at = (id: string) => builder.cityAt(id) ?? 0
  const classes = new RestrictedClasses(run.restrictions)
  for (let after = ''; ;) {
    const page = await db.select({ ...columns, turn: runPlacement.turn, held: runPlacement.held }).from(runPlacement).innerJoin(application, eq(application.id, runPlacement.applicationId))
      .where(and(eq(runPlacement.runId, run.id), ne(runPlacement.locked, true), gt(application.number, after))).orderBy(asc(application.number)).limit(5000)
    for (const p of page) builder.add({ id: p.number, home: at(p.home), choices: p.choices.map(at), needs: p.needs, turn: p.turn, class: classes.classOf(p.held, p.home), ...(p.told !== null && { told: at(p.told) }) })
    after = page.at(-1)?.number ?? ''
    if (page.length < 5000) return builder.build(classes.bars(builder.cities))
  }
}
