import { and, asc, eq, gt, isNotNull, isNull, ne, sql, type SQL } from 'drizzle-orm'
import { periodRefusal } from '../../../core/application/acts/dates'
import { whyHere, type RunFacts } from '../../../core/allocation/why'
import { inOrder, InstanceBuilder, type Instance, type Sittings } from '../../../core/allocation/instance'
import type { SittingPart } from '../../../core/allocation/allocation'
import { columnsOf, partsOfColumn, sittingsOf } from '../../../core/allocation/kept'
import { RestrictedClasses } from '../../../core/allocation/restrictions'
import type { Notice } from '../../../core/notice/schema'
import type { RunDetail, RunPeople, RunPeopleQuery, RunPerson, WhyView } from '../../../shared/centres'
import { refusal } from '../../../shared/refusal'
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
  return {
    ...runRow(run, await namesOf(context.db, [run.by, run.publishedBy])),
    early: periodRefusal(notice, 'publication', context.now()),
    seats: run.seats,
    savings: run.savings,
    restrictions: run.restrictions.map(r => r.title),
    kept: await keptRows(context.db, run),
    missing: missingSeats(run, notice),
    moves: run.moves,
    sittings: await sittingRows(context.db, run, notice),
  }
}

/** Who sits what in a run, in which sessions, with how many of them have seats; people whom seats are kept for stand by themselves. */
async function sittingRows(db: Executor, { id, sittings }: StoredRun, { testPapers, sessions }: Notice): Promise<RunDetail['sittings']> {
  // Without test papers there is nothing to tell apart: what was kept for whom stands by itself.
  if (!sittings || testPapers.length === 0) return []
  const { parts, kept = [] } = sittings
  const counts = await db.select({ part: runPlacement.part, placed: sql<string>`count(${runPlacement.city})`, all: sql<string>`count(*)` })
    .from(runPlacement).where(eq(runPlacement.runId, id)).groupBy(runPlacement.part)
  const session = (column: string) => sessions.find(s => s.id === partsOfColumn(column).session)?.title ?? column
  const groups = groupsOf(parts)
  const rows = new Map<string, RunDetail['sittings'][number]>()
  parts.forEach(({ papers, ways }, at) => {
    const count = counts.find(row => row.part === at)
    if (!count) return
    const own = {
      papers: papers.map(paper => testPapers.find(p => p.id === paper)?.title ?? paper),
      sessions: papers.map((_, i) => [...new Set(ways.map(way => session(way[i] ?? '')))].join(', ')),
      kept: [...groups[at] ?? []].flatMap(group => kept[group]?.title ?? []),
    }
    const key = JSON.stringify(own)
    const known = rows.get(key) ?? { ...own, placed: 0, unseated: 0 }
    rows.set(key, {
      ...known,
      placed: known.placed + Number(count.placed),
      unseated: known.unseated + Number(count.all) - Number(count.placed),
    })
  })
  return [...rows.values()]
}

/** The seats that were kept for some, city by city, with those that their people have there; somebody of two groups is counted in both. */
async function keptRows(db: Executor, { id, sittings }: StoredRun): Promise<RunDetail['kept']> {
  const { kept = [], parts = [] } = sittings ?? {}
  if (kept.length === 0) return []
  const counts = await db.select({
    part: runPlacement.part,
    city: runPlacement.city,
    people: sql<string>`count(*)`,
    seats: sql<string>`coalesce(sum(cardinality(${runPlacement.sessions})), 0)`,
  }).from(runPlacement).where(eq(runPlacement.runId, id)).groupBy(runPlacement.part, runPlacement.city)
  const groups = groupsOf(parts)
  return kept.map(({ title, cities }, group) => {
    const own = counts.filter(({ part }) => part !== null && groups[part]?.has(group))
    const sum = (rows: typeof own, of: 'people' | 'seats') => rows.reduce((n, row) => n + Number(row[of]), 0)
    return {
      title,
      unseated: sum(own.filter(row => row.city === null), 'people'),
      cities: cities.map(one => ({ ...one, had: sum(own.filter(row => row.city === one.city), 'seats') })),
    }
  })
}

/** The groups that the people of each part belong to: those that any way of what they sit leads to seats of. */
function groupsOf(parts: readonly SittingPart[]): ReadonlySet<number>[] {
  const ofKind = new Map<number, Set<number>>()
  for (const { kind, ways } of parts) {
    const groups = ofKind.get(kind) ?? new Set()
    for (const column of ways.flat()) {
      const { group } = partsOfColumn(column)
      if (group !== null) groups.add(group)
    }
    ofKind.set(kind, groups)
  }
  return parts.map(({ kind }) => ofKind.get(kind) ?? new Set())
}

const moved = and(isNotNull(runPlacement.told), sql`${runPlacement.told} is distinct from ${runPlacement.city}`)

const columns = {
  applicationId: application.id,
  number: application.number,
  name: application.displayName,
  city: runPlacement.city,
  choice: runPlacement.choice,
  km: runPlacement.km,
  cost: runPlacement.cost,
  choices: runPlacement.choices,
  home: runPlacement.home,
  needs: runPlacement.needs,
  told: runPlacement.told,
  locked: runPlacement.locked,
  place: runPlacement.place,
  part: runPlacement.part,
  sessions: runPlacement.sessions,
}

/** People of a run, a page by key. */
export async function readRunPeople(caller: Caller, runId: string, query: RunPeopleQuery): Promise<RunPeople> {
  const context = await caller.authorise('centres.read')
  const kinds: Record<NonNullable<RunPeopleQuery['kind']>, SQL | undefined> = {
    'off list': and(isNotNull(runPlacement.city), isNull(runPlacement.choice)),
    'no seat': isNull(runPlacement.city),
    'moved': moved,
    'locked': eq(runPlacement.locked, true),
  }
  const key = query.search ? nameKey(query.search) : ''
  const rows: RunPerson[] = await context.db.select(columns).from(runPlacement).innerJoin(
    application,
    eq(application.id, runPlacement.applicationId),
  ).where(and(
    eq(runPlacement.runId, runId),
    query.city ? eq(runPlacement.city, query.city) : undefined,
    query.choice ? eq(runPlacement.choice, query.choice) : undefined,
    query.kind ? kinds[query.kind] : undefined,
    query.after ? gt(application.number, query.after) : undefined,
    query.search
      ? sql`(${application.number} like ${`${likeText(query.search.toUpperCase())}%`} or (${key} <> '' and ${application.nameKey} like ${`${
        likeText(key)
      }%`}))`
      : undefined,
  )).orderBy(asc(application.number)).limit(query.limit + 1)
  const people = rows.slice(0, query.limit)
  return { people, next: rows.length > query.limit ? people.at(-1)?.number ?? null : null }
}

/** Why somebody is where a run put them, in words fit for a letter. */
export async function readWhy(caller: Caller, runId: string, applicationId: string): Promise<WhyView> {
  const context = await caller.authorise('centres.read')
  const run = await storedRun(context.db, runId)
  const [person] = await context.db.select({ ...columns, held: runPlacement.held }).from(runPlacement).innerJoin(
    application,
    eq(application.id, runPlacement.applicationId),
  ).where(and(eq(runPlacement.runId, runId), eq(runPlacement.applicationId, applicationId)))
  if (!person) throw refusal('run.person-unknown')
  if (run.cities.length === 0) throw refusal('run.reasons-not-kept', { serial: run.serial })
  const { notice } = await currentNotice(context.db, run.cycle)
  const classes = new RestrictedClasses(run.restrictions)
  const of = classes.classOf(person.held, person.home)
  const why = whyHere({ ...person, id: person.number, class: of }, {
    bars: classes.bars(inOrder(run.cities)),
    policy: run.policy,
    ...factsOf(run, person.part),
  })
  const title = (id: string) => notice.cities.find(c => c.id === id)?.title ?? id
  const { alikeWords, byHandWords, keptWords, whyWords } = context.language.allocation
  const papers = person.part === null
    ? []
    : run.sittings?.parts[person.part]?.papers.flatMap(id => notice.testPapers.find(p => p.id === id)?.title ?? []) ?? []
  const words = person.locked
    ? [byHandWords(title(person.city ?? ''))]
    : [...whyWords(why, title), ...papers.length > 0 ? [alikeWords(papers)] : [],
      ...keptFor(run, person).map(kept => keptWords(kept, title))]
  return { person, why, words, serial: run.serial }
}

/** The seats kept in cities that somebody named, whether for them or for others. */
function keptFor(
  { sittings }: StoredRun,
  { part, choices }: { part: number | null, choices: string[] },
): { title: string, theirs: boolean, cities: { city: string, kept: number }[] }[] {
  const { kept = [], parts = [] } = sittings ?? {}
  const own = part === null ? undefined : groupsOf(parts)[part]
  return kept.flatMap(({ title, cities }, group) => {
    const named = cities.flatMap(({ city, kept, opened }) => choices.includes(city) && kept > opened ? [{ city, kept: kept - opened }] : [])
    return named.length === 0 ? [] : [{ title, theirs: own?.has(group) === true, cities: named }]
  })
}

/** What counts for somebody: the whole run, or, where people sit test papers, the seats that were left for those who sit alike. */
function factsOf(run: StoredRun, at: number | null): Pick<RunFacts, 'cities' | 'prices' | 'lines' | 'placed'> {
  const part = at === null ? undefined : run.sittings?.parts[at]
  // Somebody placed by hand may be the only one who sits what they sit.
  if (!part || part.cities.length === 0) {
    return {
      cities: run.cities,
      prices: pricesOf(run),
      lines: run.lines,
      placed: new Map(run.summary.cities.map(c => [c.city, { all: c.placed, inNeed: c.placedInNeed }])),
    }
  }
  return {
    cities: part.cities,
    prices: { seat: Float64Array.from(part.prices.seat), accessibleSeat: Float64Array.from(part.prices.accessibleSeat) },
    lines: part.lines,
    placed: new Map(part.cities.map((city, k) => [city.id, part.placed[k] ?? { all: 0, inNeed: 0 }])),
  }
}

function pricesOf({ cities, summary }: StoredRun) {
  const of = (id: string) => summary.cities.find(c => c.city === id)
  return {
    seat: Float64Array.from(cities, c => of(c.id)?.price ?? 0),
    accessibleSeat: Float64Array.from(cities, c => of(c.id)?.accessiblePrice ?? 0),
  }
}

/** The question a run was asked, as it was kept: people placed by hand are not part of it. */
export async function instanceOfRun(db: Executor, run: StoredRun): Promise<Instance> {
  if (run.cities.length === 0) throw refusal('run.question-not-kept', { serial: run.serial })
  const builder = new InstanceBuilder(run.cities, Math.max(1, run.summary.byChoice.length), 'instant')
  const at = (id: string) => builder.cityAt(id) ?? 0
  const classes = new RestrictedClasses(run.restrictions)
  const kinds = kindsOfRun(run)
  for (let after = '';;) {
    const page = await db.select({ ...columns, turn: runPlacement.turn, held: runPlacement.held }).from(runPlacement).innerJoin(
      application,
      eq(application.id, runPlacement.applicationId),
    ).where(and(eq(runPlacement.runId, run.id), ne(runPlacement.locked, true), gt(application.number, after)))
      .orderBy(asc(application.number)).limit(5000)
    for (const p of page) {
      builder.add({
        id: p.number,
        home: at(p.home),
        choices: p.choices.map(at),
        needs: p.needs,
        turn: p.turn,
        class: classes.classOf(p.held, p.home),
        ...(p.told !== null && { told: at(p.told) }),
        ...(p.part !== null && { kind: kinds.ofPart[p.part] }),
      })
    }
    after = page.at(-1)?.number ?? ''
    if (page.length < 5000) {
      return builder.build(
        classes.bars(builder.cities),
        run.sittings
          ? sittingsOf(
            { cities: run.cities, sessions: kinds.sessions.map(id => ({ id })) },
            kinds.all,
            run.sittings.free,
            run.sittings.kept?.length ?? 0,
          )
          : undefined,
      )
    }
  }
}

/** What people of a run sit, as it was asked: the ways of a kind lie in its parts, in their order. */
function kindsOfRun({ sittings }: StoredRun): { sessions: string[], all: Sittings['kinds'], ofPart: number[] } {
  const sessions = [...new Set(sittings?.free.map(row => partsOfColumn(row.session).session))]
  const columns = columnsOf(sessions, sittings?.kept?.length ?? 0)
  const parts = sittings?.parts ?? []
  const all: Sittings['kinds'] = []
  for (const { kind, papers, ways } of parts) {
    ;(all[kind] ??= { papers, ways: [] }).ways.push(...ways.map(way => way.map(id => columns.indexOf(id))))
  }
  return { sessions, all, ofPart: parts.map(part => part.kind) }
}
