import { desc, eq, getTableColumns, sql } from 'drizzle-orm'
import { Cancelled, type Watch } from '../../../core/allocation/allocate'
import type { Allocation } from '../../../core/allocation/allocation'
import { partsOfColumn } from '../../../core/allocation/kept'
import { linesOf, placesInOrder } from '../../../core/allocation/lines'
import { noCity, type Instance } from '../../../core/allocation/instance'
import { distances } from '../../../core/allocation/option-table'
import { choiceOf, outcomeOf, type Outcome } from '../../../core/allocation/outcome'
import { distanceKm, placementCost, policyFaults, type AllocationPolicy } from '../../../core/allocation/policy'
import type { Notice } from '../../../core/notice/schema'
import type { RunRequest, RunRow } from '../../../shared/centres'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { locks } from '../../database/locks'
import { allocationRun, application, runPlacement } from '../../database/schema'
import { markPlaced } from '../acts/placed'
import { log, type Caller, type Context } from '../context'
import { namesOf, type NameOf } from '../people/names'
import { currentNotice } from '../notice/notices'
import { partOf, stopped, type Tell } from './progress'
import type { Locked } from './asked'
import { readInputs } from './inputs'
import { placeAll, type Placed } from './place-all'
import type { Solver } from './solver'

/**
 * Places people by a policy and keeps the run with its inputs' hash, its bound and what explains it. Nothing is told to anyone
 * before a run is published.
 *
 * @throws ProblemError `run.nobody` when nobody waits for a place, `run.policy` for a policy that cannot be used.
 */
export async function runAllocation(
  caller: Caller,
  cycleCode: string,
  request: RunRequest,
  solve: Solver,
  tell: Tell = () => Promise.resolve(true),
): Promise<{ runId: string, serial: number }> {
  const context = await caller.authorise('centres.run')
  const started = performance.now()
  const { notice } = await currentNotice(context.db, cycleCode)
  const policy = policyOf(notice, request)
  const read = await readInputs(context.db, cycleCode, notice, policy, request, partOf(tell, 0, 40))
  if (read.instance.ids.length === 0) throw refusal('run.nobody')
  const placed = await placeAll(notice, read, policy, solve, follow(partOf(tell, 40, 60))).catch((error: unknown) => {
    throw error instanceof Cancelled ? stopped() : error
  })
  return context.db.transaction(tx =>
    keepRun(tx, context, cycleCode, notice, { ...placed, request, policy, took: performance.now() - started, tell: partOf(tell, 60, 100) })
  )
}

/** The notice's policy with what a request puts in its place. @throws ProblemError with every fault. */
export function policyOf(notice: Notice, request: Pick<RunRequest, 'policy' | 'scope'>): AllocationPolicy {
  const { choiceCosts, offListBase, kilometreCap, unseated, staying } = notice.allocation
  const policy: AllocationPolicy = {
    kind: 'best-fit',
    seed: 0,
    choiceCosts,
    offListBase,
    kilometreCap,
    unseated,
    staying,
    ...request.policy,
  }
  if (request.scope === 'waiting') policy.staying = 0
  const faults = policyFaults(policy)
  if (faults.length > 0) throw refusal('run.policy', { faults: faults.join('; ') })
  return policy
}

/** Passes progress on without waiting for it; says to stop once an answer said so. */
function follow(tell: Tell): Watch {
  let goOn = true
  let asked = 0
  return (done, total) => {
    const now = performance.now()
    if (now - asked > 300 || done === total) {
      asked = now
      tell(done, total).then((answer) => {
        goOn = goOn && answer
      }, () => undefined)
    }
    return goOn
  }
}

interface Finished extends Placed {
  request: RunRequest
  policy: AllocationPolicy
  took: number
  tell: Tell
}

async function keepRun(
  tx: Executor,
  context: Context,
  cycleCode: string,
  notice: Notice,
  run: Finished,
): Promise<{ runId: string, serial: number }> {
  const { request, policy, inputs: { instance, locked, seats, free, sha256 }, allocation, kept } = run
  // Serials go up one by one; other work on the cycle need not wait for a run to be written.
  await locks.runSerial(tx)
  const [last] = await tx.select({ serial: allocationRun.serial }).from(allocationRun).where(eq(allocationRun.cycle, cycleCode))
    .orderBy(desc(allocationRun.serial)).limit(1)
  const runId = context.newId()
  const serial = (last?.serial ?? 0) + 1
  const held = locked.map(one => lockedPlacement(notice, policy, one, allocation))
  // People placed by hand cost what they cost in any placement: cost and bound rise alike.
  const extra = held.reduce((sum, one) => sum + one.cost, 0)
  const summary = withLocked(outcomeOf(instance, allocation), held)
  await tx.insert(allocationRun).values({
    id: runId,
    cycle: cycleCode,
    serial,
    policy,
    scope: request.scope,
    note: request.note,
    seats,
    cities: instance.cities,
    restrictions: notice.allocation.restrictions,
    inputsSha256: sha256,
    sittings: allocation.sittings ? { free, parts: allocation.sittings.parts, kept } : null,
    cost: allocation.cost + extra,
    bound: allocation.bound + extra,
    standing: allocation.standing,
    summary,
    lines: linesOf(instance, policy, allocation),
    moves: countMoves(instance, allocation) + locked.filter(one => one.told !== null && one.told !== one.city).length,
    tookMilliseconds: Math.round(run.took),
    by: context.principal.id,
    at: context.now(),
  })
  let written = 0
  for (const rows of placementRows(run)) {
    await writePlacements(tx, runId, rows)
    written += rows.length
    if (!await run.tell(written, instance.ids.length)) throw stopped()
  }
  await writePlacements(tx, runId, held)
  await markPlaced(tx, context, runId)
  const people = instance.ids.length + locked.length
  const { scope, note } = request
  const [cost, bound] = [allocation.cost + extra, allocation.bound + extra]
  await log(tx, context, 'run-allocation', {
    subject: { kind: 'run', id: runId },
    cycle: cycleCode,
    reason: note || null,
    after: { run: serial, policy: policy.kind, scope, cost, bound, standing: allocation.standing, people, sha256 },
  })
  return { runId, serial }
}

interface PlacementRow {
  number: string
  home: string
  choices: string[]
  needs: boolean
  turn: number
  told: string | null
  locked: boolean
  held: number
  city: string | null
  choice: number | null
  km: number | null
  cost: number
  place: number | null
  part: number | null
  sessions: string[] | null
}

function* placementRows({ policy, inputs: { instance, held }, allocation: { cityOf, order, sittings } }: Finished): Generator<
  PlacementRow[]
> {
  const { ids, cities, home, choices, slots, needs, turn, told } = instance
  const km = distances(cities)
  const places = order && placesInOrder(order)
  const name = (k: number | undefined) => k === undefined || k === noCity ? null : cities[k]?.id ?? null
  for (let from = 0; from < ids.length; from += 5000) {
    yield ids.slice(from, from + 5000).map((number, i): PlacementRow => {
      const person = from + i
      const city = cityOf[person] ?? noCity
      const choice = choiceOf(instance, person, city)
      const distance = city === noCity ? null : km[(home[person] ?? 0) * cities.length + city] ?? 0
      const cost = placementCost(policy, choice, distance)
      return {
        number,
        home: name(home[person]) ?? '',
        choices: Array.from(choices.subarray(person * slots, (person + 1) * slots), name).filter(id => id !== null),
        needs: needs[person] === 1,
        turn: turn[person] ?? 0,
        told: name(told?.[person]),
        locked: false,
        held: held.get(number) ?? 0,
        city: name(city),
        choice,
        km: distance,
        cost,
        place: places?.[person] ?? null,
        part: sittings?.partOf[person] ?? null,
        sessions: sittings && city !== noCity ? sessionsOf(instance, sittings.wayOf[person] ?? 0, person) : null,
      }
    })
  }
}

/** The sessions in which somebody sits the papers of their kind. */
function sessionsOf({ sittings }: Instance, way: number, person: number): string[] {
  const kind = sittings?.kinds[sittings.kindOf[person] ?? 0]
  return (kind?.ways[way] ?? []).map(at => partsOfColumn(sittings?.sessions[at] ?? '').session)
}

function countMoves({ told }: Instance, { cityOf }: Allocation): number {
  return told ? cityOf.reduce((n, city, person) => n + (told[person] !== noCity && told[person] !== city ? 1 : 0), 0) : 0
}

function lockedPlacement(
  notice: Notice,
  policy: AllocationPolicy,
  { kind, kept: _, ...one }: Locked,
  allocation: Allocation,
): PlacementRow {
  const choice = one.choices.indexOf(one.city) + 1 || null
  const at = (id: string) => notice.cities.find(c => c.id === id) ?? { lat: 0, lon: 0 }
  const km = distanceKm(at(one.home), at(one.city))
  const part = allocation.sittings?.parts.findIndex(p => p.kind === kind) ?? null
  return { ...one, locked: true, choice, km, cost: placementCost(policy, choice, km), place: null, part }
}

function withLocked(outcome: Outcome, held: PlacementRow[]): Outcome {
  const result = structuredClone(outcome)
  for (const one of held) {
    result.people += 1
    const city = result.cities.find(c => c.city === one.city)
    const seats = one.sessions?.length ?? 1
    if (city) {
      city.placed += 1
      city.capacity += seats
      if (city.taken !== undefined) city.taken += seats
      if (one.needs) {
        city.placedInNeed += 1
        city.accessibleCapacity += seats
      }
      if (one.choice === 1) city.placedFirst += 1
      if (one.choice === null) city.placedOffList += 1
    }
    if (one.choice === null) result.offList += 1
    else result.byChoice[one.choice - 1] = (result.byChoice[one.choice - 1] ?? 0) + 1
    one.choices.forEach((choice, i) => {
      const wanted = result.cities.find(c => c.city === choice)
      if (!wanted) return
      wanted.anyChoice += 1
      if (i === 0) wanted.firstChoice += 1
      if (i === 0 && wanted.firstSeats !== undefined) wanted.firstSeats += seats
    })
  }
  return result
}

/** Writes many rows in one statement, whatever their number: columns go over as arrays. */
async function writePlacements(tx: Executor, runId: string, rows: PlacementRow[]): Promise<void> {
  if (rows.length === 0) return
  const column = <K extends keyof PlacementRow>(key: K) => sql.param(rows.map(row => row[key]))
  await tx.execute(sql`
    insert into ${runPlacement} (run_id, application_id, home, choices, needs, turn, told, locked, held, city, choice, km, cost, place, part, sessions)
    select ${runId}::uuid, a.id, r.home, string_to_array(r.choices, ';'), r.needs, r.turn, r.told, r.locked, r.held, r.city, r.choice, r.km, r.cost, r.place, r.part, string_to_array(r.sessions, ';')
    from unnest(${column('number')}::text[], ${column('home')}::text[], ${sql.param(rows.map(row => row.choices.join(';')))}::text[], ${
    column('needs')
  }::boolean[], ${column('turn')}::double precision[],
      ${column('told')}::text[], ${column('locked')}::boolean[], ${column('held')}::integer[], ${column('city')}::text[], ${
    column('choice')
  }::integer[], ${column('km')}::integer[], ${column('cost')}::integer[], ${column('place')}::integer[],
      ${column('part')}::integer[], ${sql.param(rows.map(row => row.sessions?.join(';') ?? null))}::text[])
      as r(number, home, choices, needs, turn, told, locked, held, city, choice, km, cost, place, part, sessions)
    join ${application} a on a.number = r.number`)
}

export type StoredRun = typeof allocationRun.$inferSelect

// A list needs neither the lines of every city nor what was computed later: with many cities they weigh megabytes a run.
const {
  lines: _lines,
  savings: _savings,
  seats: _seats,
  cities: _cities,
  restrictions: _restrictions,
  sittings: _sittings,
  ...listColumns
} = getTableColumns(allocationRun)

export function runRow(run: Omit<StoredRun, 'lines' | 'savings' | 'seats' | 'cities' | 'restrictions' | 'sittings'>, name: NameOf): RunRow {
  const { id, cycle, serial, policy, scope, note, cost, bound, standing, summary, inputsSha256, tookMilliseconds } = run
  return {
    id,
    cycle,
    serial,
    policy,
    scope,
    note,
    cost,
    bound,
    standing,
    summary,
    by: name(run.by),
    publishedBy: run.publishedBy && name(run.publishedBy),
    inputsSha256,
    tookMilliseconds,
    at: run.at.toISOString(),
    publishedAt: run.publishedAt?.toISOString() ?? null,
  }
}

export async function storedRun(db: Executor, runId: string): Promise<StoredRun> {
  const [run] = await db.select().from(allocationRun).where(eq(allocationRun.id, runId))
  if (!run) throw refusal('run.unknown')
  return run
}

export async function listRuns(caller: Caller, cycleCode: string): Promise<RunRow[]> {
  const context = await caller.authorise('centres.read', { cycle: cycleCode })
  const rows = await context.db.select(listColumns).from(allocationRun).where(eq(allocationRun.cycle, cycleCode))
    .orderBy(desc(allocationRun.serial)).limit(100)
  const name = await namesOf(context.db, rows.flatMap(run => [run.by, run.publishedBy]))
  return rows.map(run => runRow(run, name))
}
