import { createHash } from 'node:crypto'
import { and, asc, eq, gt, inArray, sql } from 'drizzle-orm'
import type { Headline } from '../../../core/application/tracks'
import { mostChoices, placeableOf } from '../../../core/application/sheet'
import { InstanceBuilder, type AllocationCity, type Instance } from '../../../core/allocation/instance'
import { sittingsOf, type SeatRow } from '../../../core/allocation/kept'
import type { AllocationPolicy } from '../../../core/allocation/policy'
import { RestrictedClasses } from '../../../core/allocation/restrictions'
import type { Notice } from '../../../core/notice/schema'
import { SittingKinds } from '../../../core/seating/kinds'
import { venueSeats } from '../../../core/seating/seats'
import type { RunRequest, SessionSeats } from '../../../shared/centres'
import { stopped, type Tell } from './progress'
import type { InputScope, Locked } from './asked'
import { seatsApart } from './kept'
import { citiesOf, freeSeats, seatLocked } from './sittings'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { application, payment, placementLock, seat } from '../../database/schema'
import { countedAnswers } from '../applications/store'

/** All that goes into a run. The people of the instance go by their application numbers. */
export interface RunInputs {
  instance: Instance
  held: Map<string, number>
  locked: Locked[]
  seats: SessionSeats[]
  /** Where people sit test papers, or seats are kept for some: what is free by city and column. */
  free: SeatRow[]
  sha256: string
}

/** The seats of the venues, with those asked for in their place. @throws ProblemError for a city or session the notice does not name. */
export function seatsAsked(notice: Notice, asked: readonly SessionSeats[]): SessionSeats[] {
  const key = (s: SessionSeats) => `${s.city}/${s.session}`
  const own = venueSeats(notice)
  const known = new Set(own.map(key))
  for (const row of asked) {
    if (!known.has(key(row))) throw refusal('run.city-session-unknown', { city: row.city, session: row.session })
    if (row.accessibleSeats > row.seats) {
      throw refusal('run.accessible-above', { city: row.city, session: row.session, accessible: row.accessibleSeats, seats: row.seats })
    }
  }
  const changed = new Map(asked.map(row => [key(row), row]))
  return own.map(row => changed.get(key(row)) ?? row)
}

/** Reads who is to be placed, and where there are seats for them. Pages by key, so that memory holds the instance and little else. */
export async function readInputs(
  db: Executor,
  cycle: string,
  notice: Notice,
  policy: AllocationPolicy,
  request: { scope: InputScope, seats: RunRequest['seats'] },
  tell: Tell = () => Promise.resolve(true),
): Promise<RunInputs> {
  const seats = seatsAsked(notice, request.seats)
  const locks =
    new Map((await db.select().from(placementLock).where(eq(placementLock.cycle, cycle))).map(lock => [lock.applicationId, lock.city]))
  const locked: Locked[] = []
  const held = new Map<string, number>()
  const classes = new RestrictedClasses(notice.allocation.restrictions)
  const kinds = SittingKinds.matterIn(notice) ? new SittingKinds(notice) : null
  const builder = new InstanceBuilder(
    notice.cities.map(({ id, lat, lon }) => ({ id, lat, lon, capacity: 0, accessibleCapacity: 0 })),
    mostChoices(notice),
    'instant',
  )
  const at = (id: string) => {
    const place = builder.cityAt(id)
    if (place === undefined) throw refusal('run.sheet-city', { city: id })
    return place
  }
  const total = await db.$count(application, and(eq(application.cycle, cycle), inArray(application.headline, statesOf[request.scope])))
  let read = 0
  for (let after = '';;) {
    const page = await pageOfPeople(db, cycle, notice, request.scope, after)
    for (const row of page) {
      const person = personOf(notice, row, kinds)
      const city = locks.get(row.id)
      if (!person) continue
      // Most people are under no restriction: only the others are remembered.
      if (person.held !== 0) held.set(person.number, person.held)
      if (city !== undefined) locked.push({ ...person, city, sessions: null })
      else builder.add(applicantOf(person, at, classes))
    }
    after = page.at(-1)?.number ?? ''
    read += page.length
    if (!await tell(read, total)) throw stopped()
    if (page.length < pageLength) break
  }
  const free = kinds
    ? await seatsApart(
      db,
      cycle,
      notice,
      request.scope,
      seatLocked(notice, kinds.all, await freeSeats(db, cycle, request.scope, seats), locked),
      locked,
    )
    : []
  const cities = kinds ? citiesOf(notice, free) : await freeCities(db, cycle, notice, request.scope, seats, locked)
  const built = builder.build(
    classes.bars(builder.cities),
    kinds ? sittingsOf(notice, kinds.all, free, notice.allocation.kept.length) : undefined,
  )
  const instance = { ...built, cities: built.cities.map(city => cities.find(c => c.id === city.id) ?? city) }
  return { instance, held, locked, seats, free, sha256: inputsHash(instance, policy, locked) }
}

function applicantOf(person: Omit<Locked, 'city' | 'sessions'>, at: (city: string) => number, classes: RestrictedClasses) {
  return {
    id: person.number,
    home: at(person.home),
    choices: person.choices.map(at),
    needs: person.needs,
    turn: person.turn,
    class: classes.classOf(person.held, person.home),
    ...(person.told !== null && { told: at(person.told) }),
    ...(person.kind !== null && { kind: person.kind }),
  }
}

const pageLength = 5000

const statesOf: Record<InputScope, Headline[]> = {
  waiting: ['accepted'],
  everyone: ['accepted', 'placed', 'card issued'],
  applied: ['fee due', 'in scrutiny', 'returned', 'accepted', 'placed', 'card issued'],
}

async function pageOfPeople(db: Executor, cycle: string, notice: Notice, scope: InputScope, after: string) {
  const states = statesOf[scope]
  // The notice says which time stamp counts: the sheet's, or that of the payment which settled the fee.
  const settled = db.select({ at: sql<Date>`max(${payment.closedAt})` }).from(payment)
    .where(and(eq(payment.applicationId, application.id), eq(payment.state, 'succeeded')))
  return db.select({
    id: application.id,
    number: application.number,
    answers: application.answers,
    falseClaims: application.falseClaims,
    requests: application.requests,
    submittedAt: application.submittedAt,
    settledAt: notice.allocation.timeStamp === 'fee settled' ? sql<string | null>`(${settled})` : sql<string | null>`null`,
    told: seat.city,
  }).from(application).leftJoin(seat, and(eq(seat.applicationId, application.id), eq(seat.ordinal, 0))).where(and(
    eq(application.cycle, cycle),
    inArray(application.headline, states),
    gt(application.number, after),
    ...(scope === 'waiting' ? [sql`${seat.applicationId} is null`] : []),
  )).orderBy(asc(application.number)).limit(pageLength)
}

type PersonRow = Awaited<ReturnType<typeof pageOfPeople>>[number]

function personOf(notice: Notice, row: PersonRow, kinds: SittingKinds | null): Omit<Locked, 'city' | 'sessions'> | null {
  const answers = countedAnswers(notice, row)
  const placeable = placeableOf(notice, answers)
  if (!placeable) return null
  const stamp = row.settledAt ? new Date(row.settledAt) : row.submittedAt
  return {
    number: row.number,
    home: placeable.home,
    choices: placeable.choices,
    needs: placeable.needsAccessible,
    turn: stamp?.getTime() ?? 0,
    told: row.told,
    held: placeable.held,
    kept: placeable.kept,
    kind: kinds && kinds.kindOf(answers, placeable.kept),
  }
}

/** The cities with the seats that are free for a run: those published before and those placed by hand are taken off. */
async function freeCities(
  db: Executor,
  cycle: string,
  notice: Notice,
  scope: InputScope,
  seats: SessionSeats[],
  locked: Locked[],
): Promise<AllocationCity[]> {
  const used = scope !== 'waiting'
    ? []
    : await db.select({ city: seat.city, all: sql<string>`count(*)`, accessible: sql<string>`count(*) filter (where ${seat.accessible})` })
      .from(seat).where(eq(seat.cycle, cycle)).groupBy(seat.city)
  return notice.cities.map((city) => {
    const own = seats.filter(s => s.city === city.id)
    const sum = (kind: 'seats' | 'accessibleSeats') => own.reduce((n, s) => n + s[kind], 0)
    const taken = used.find(u => u.city === city.id)
    const held = locked.filter(l => l.city === city.id)
    const capacity = sum('seats') - Number(taken?.all ?? 0) - held.length
    const accessible = sum('accessibleSeats') - Number(taken?.accessible ?? 0) - held.filter(l => l.needs).length
    if (held.length > 0 && (capacity < 0 || accessible < 0)) throw refusal('run.hand-full', { city: city.title, count: held.length })
    return {
      id: city.id,
      lat: city.lat,
      lon: city.lon,
      capacity: Math.max(0, capacity),
      accessibleCapacity: Math.max(0, Math.min(accessible, capacity)),
    }
  })
}

/** SHA-256 over policy, cities and people in their order: two runs of one hash were asked the same question. */
export function inputsHash(instance: Instance, policy: AllocationPolicy, locked: readonly Locked[]): string {
  const hash = createHash('sha256').update(JSON.stringify([policy, instance.cities, locked]))
  for (const id of instance.ids) hash.update(id).update('\n')
  for (
    const column of [instance.home, instance.choices, instance.needs, instance.turn, instance.told ?? new Uint16Array(0),
      instance.bars?.classOf ?? new Uint16Array(0), instance.bars?.closed ?? new Uint8Array(0)]
  ) hash.update(column)
  if (instance.sittings) {
    const { kindOf, seats, accessible, ...rest } = instance.sittings
    for (const column of [kindOf, seats, accessible]) hash.update(column)
    hash.update(JSON.stringify(rest))
  }
  return hash.digest('hex')
}
