import { and, asc, eq, gt, isNotNull, isNull, ne, sql, type SQL } from 'drizzle-orm'
import { periodRefusal } from '../../../core/application/acts/dates'
import { whyHere, type RunFacts } from '../../../core/allocation/why'
import { inOrder, InstanceBuilder, type Instance, type Sittings } from '../../../core/allocation/instance'
import { RestrictedClasses } from '../../../core/allocation/restrictions'
import type { Notice } from '../../../core/notice/schema'
import type { RunDetail, RunPeople, RunPeopleQuery, RunPerson, WhyView } from '../../../shared/centres'
import { refusal } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { application, runPlacement } from '../../database/schema'
import { nameKey } from '../../../core/identity/names'
import { likeText } from '../../database/text'
import type { Caller } from '../context'
import { namesOf } from '../people/names'
import { currentNotice } from '../notice/notices'
import { sittingsOf } from './sittings'
import { missingSeats } from './publish'
import { runRow, storedRun, type StoredRun } from './runs'

/** One run as a whole. */
export async function readRun(caller: Caller, runId: string): Promise<RunDetail> {
  const context = await caller.authorise('centres.read')
  const run = await storedRun(context.db, runId)
  const { notice } = await currentNotice(context.db, run.cycle)
  return { ...runRow(run, await namesOf(context.db, [run.by, run.publishedBy])), early: periodRefusal(notice, 'publication', context.now()), seats: run.seats, savings: run.savings, restrictions: run.restrictions.map(r => r.title), missing: missingSeats(run, notice), moves: run.moves, sittings: await sittingRows(context.db, run, notice) }
}

/** Who competes for the same seats in a run, with how many of them sit. */
async function sittingRows(db: Executor, { id, sittings }: StoredRun, { testPapers, sessions }: Notice): Promise<RunDetail['sittings']> {
  if (!sittings) return []
  const counts = await db.select({ part: runPlacement.part, placed: sql<string>`count(${runPlacement.city})`, all: sql<string>`count(*)` }).from(runPlacement).where(eq(runPlacement.runId, id)).groupBy(runPlacement.part)
  const paper = (one: string) => testPapers.find(p => p.id === one)?.title ?? one
  const session = (one: string) => sessions.find(s => s.id === one)?.title ?? one
  return sittings.parts.flatMap(({ papers, ways }, at) => {
    const count = counts.find(row => row.part === at)
    if (!count) return []
    return [{ papers: papers.map(paper), sessions: papers.map((_, i) => [...new Set(ways.map(way => session(way[i] ?? '')))].join(', ')), placed: Number(count.placed), unseated: Number(count.all) - Number(count.placed) }]
  })
}

const moved = and(isNotNull(runPlacement.told), sql`${runPlacement.told} is distinct from ${runPlacement.city}`)

const columns = {
  applicationId: application.id, number: application.number, name: application.displayName, city: runPlacement.city, choice: runPlacement.choice, km: runPlacement.km,
  cost: runPlacement.cost, choices: runPlacement.choices, home: runPlacement.home, needs: runPlacement.needs, told: runPlacement.told, locked: runPlacement.locked, place: runPlacement.place, part: runPlacement.part, sessions: runPlacement.sessions,
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
    bars: classes.bars(inOrder(run.cities)), policy: run.policy, ...factsOf(run, person.part),
  })
  const title = (id: string) => notice.cities.find(c => c.id === id)?.title ?? id
  const { alikeWords, byHandWords, whyWords } = context.language.allocation
  const papers = person.part === null ? [] : run.sittings?.parts[person.part]?.papers.map(id => notice.testPapers.find(p => p.id === id)?.title ?? id) ?? []
  const words = person.locked ? [byHandWords(title(person.city ?? ''))] : [...whyWords(why, title), ...papers.length > 0 ? [alikeWords(papers)] : []]
  return { person, why, words, serial: run.serial }
}

/** What counts for somebody: the whole run, or, where people sit test papers, the seats that were left for those who sit alike. */
function factsOf(run: StoredRun, at: number | null): Pick<RunFacts, 'cities' | 'prices' | 'lines' | 'placed'> {
  const part = at === null ? undefined : run.sittings?.parts[at]
  // Somebody placed by hand may be the only one who sits what they sit.
  if (!part || part.cities.length === 0) return { cities: run.cities, prices: pricesOf(run), lines: run.lines, placed: new Map(run.summary.cities.map(c => [c.city, { all: c.placed, inNeed: c.placedInNeed }])) }
  return {
    cities: part.cities, prices: { seat: Float64Array.from(part.prices.seat), accessibleSeat: Float64Array.from(part.prices.accessibleSeat) }, lines: part.lines,
    placed: new Map(part.cities.map((city, k) => [city.id, part.placed[k] ?? { all: 0, inNeed: 0 }])),
  }
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
  const kinds = kindsOfRun(run)
  for (let after = ''; ;) {
    const page = await db.select({ ...columns, turn: runPlacement.turn, held: runPlacement.held }).from(runPlacement).innerJoin(application, eq(application.id, runPlacement.applicationId))
      .where(and(eq(runPlacement.runId, run.id), ne(runPlacement.locked, true), gt(application.number, after))).orderBy(asc(application.number)).limit(5000)
    for (const p of page) builder.add({ id: p.number, home: at(p.home), choices: p.choices.map(at), needs: p.needs, turn: p.turn, class: classes.classOf(p.held, p.home), ...(p.told !== null && { told: at(p.told) }), ...(p.part !== null && { kind: kinds.ofPart[p.part] }) })
    after = page.at(-1)?.number ?? ''
    if (page.length < 5000) return builder.build(classes.bars(builder.cities), run.sittings ? sittingsOf({ cities: run.cities, sessions: kinds.sessions.map(id => ({ id })) }, kinds.all, run.sittings.free) : undefined)
  }
}

/** What people of a run sit, as it was asked: the ways of a kind lie in its parts, in their order. */
function kindsOfRun({ sittings }: StoredRun): { sessions: string[], all: Sittings['kinds'], ofPart: number[] } {
  const sessions = [...new Set(sittings?.free.map(row => row.session))]
  const parts = sittings?.parts ?? []
  const all: Sittings['kinds'] = []
  for (const { kind, papers, ways } of parts) (all[kind] ??= { papers, ways: [] }).ways.push(...ways.map(way => way.map(id => sessions.indexOf(id))))
  return { sessions, all, ofPart: parts.map(part => part.kind) }
}
