import { randomUUID } from 'node:crypto'
import { and, eq, isNull, sql } from 'drizzle-orm'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { Answers } from '../../core/application/answers'
import { likelyPair, message, openMatter, referral } from '../../server/database/schema'
import { confirmAct } from '../../server/services/acts/named'
import { withdrawProposal } from '../../server/services/acts/proposals'
import { saveAnswers } from '../../server/services/applications/answers'
import { readApplication } from '../../server/services/applications/store'
import { remindInTime } from '../../server/services/clock/remind'
import { layBack, readQueue, takeInHand, takeNext } from '../../server/services/scrutiny/queue'
import { judgePair, listPairs, settleMootPairs } from '../../server/services/scrutiny/pairs'
import { keepReading } from '../../server/services/scrutiny/readings'
import { sortCases } from '../../server/services/scrutiny/sorting'
import { findPairs } from '../../server/services/scrutiny/work'
import { openOffice, type Office } from '../support/office'
import { ProblemError } from '../../shared/problem'
import { problemOf } from '../support/problem'

let office: Office
let serial = 0
/** Somebody of their own, so that nobody is taken for somebody else. */
const person = (): Answers => {
  serial++
  const letters = [...String(serial).padStart(3, '0')].map(digit => 'abdefgklmn'[Number(digit)]).join('o')
  return {
    certificateName: `Q${letters} Var${letters}`,
    identityName: `Q${letters} Var${letters}`,
    bornOn: `200${3 + serial % 2}-0${1 + serial % 9}-1${serial % 10}`,
    identityNumber: `SB${7_000_000 + serial * 7919}`,
    mobile: `5550${600_000 + serial}`,
    email: `p${serial}@post.example`,
  }
}
async function waiting(change: Answers = {}): Promise<string> {
  const id = await office.complete()
  await saveAnswers(office.as(), id, { revision: 1, changes: { ...person(), ...change } })
  await office.act(id, 'submit', { revision: 2, declared: true })
  return office.settle(id)
}
const next = (who = office.as('scrutineer'), passed: string[] = []) => takeNext(who, office.cycle, { passed })
/** A refusal is an answer; anything else that is thrown is a fault. */
const expectRefusal = (error: unknown) => {
  expect(error).toBeInstanceOf(ProblemError)
}
const laneOf = async (id: string) => (await office.dossier(id)).hand?.lane

describe('the queue', () => {
  beforeAll(async () => {
    office = await openOffice({ scrutiny: { handMinutes: 30, days: 3 } })
  })
  afterAll(() => office.close())

  it('hands each case to one person, however many ask at once, and to others when its time is over', async () => {
    const ids = await Promise.all(Array.from({ length: 5 }, () => waiting()))
    const [one, two] = [office.as('scrutineer'), office.second('scrutineer')]
    const taken = await Promise.all([next(one), next(two), next(one), next(two), next(one), next(two), next(one)])
    const got = taken.flatMap(t => t?.id ?? [])
    expect([...got].sort()).toEqual([...ids].sort())
    expect((await readQueue(one, office.cycle)).own.length + (await readQueue(two, office.cycle)).own.length).toBe(5)
    expect(await next(one)).toBeNull()

    // Nobody decides on what another has in hand, or takes it; reading it is free.
    const own = new Set((await readQueue(one, office.cycle)).own.map(c => c.id))
    const theirs = ids.find(id => !own.has(id)) ?? ''
    for (const act of ['accept', 'return', 'refuse'] as const) {
      expect(await problemOf(office.act(theirs, act, { reasons: [{ item: 'photograph', reason: 'too far away' }] }, one))).toMatchObject({
        code: 'case.in-hand',
      })
    }
    expect(await problemOf(takeInHand(one, theirs))).toMatchObject({ code: 'case.in-hand' })
    await layBack(two, theirs)
    expect(await takeInHand(one, theirs)).not.toBeNull()
    expect(await next(two, [theirs])).toBeNull()
    office.pass(31)
    expect(await next(two)).not.toBeNull()
    for (const id of ids) {
      office.pass(31)
      await office.act(id, 'accept', {}, one)
    }
    const view = await readQueue(office.as('auditor'), office.cycle)
    expect([view.lanes.reduce((sum, lane) => sum + lane.count, 0), view.people.find(p => p.id === one.principal.id)?.today]).toEqual([0, 5])
  })

  it('sorts cases by their heaviest doubt, tells their last day, and a desk that is asked keeps one', async () => {
    const [plain, doubtful] = [await waiting(), await waiting({ identityName: 'Somebody Else' })]
    await sortCases(office.product)
    expect([await laneOf(plain), await laneOf(doubtful)]).toEqual(['plain', 'person'])
    const { lanes } = await readQueue(office.as(), office.cycle)
    expect(lanes.find(lane => lane.lane === 'person')).toMatchObject({ count: 1, oldest: office.now.toISOString() })
    expect(Date.parse(lanes.find(lane => lane.lane === 'person')?.until ?? '')).toBeGreaterThan(office.now.getTime() + 2 * 86_400_000)

    await office.act(doubtful, 'refer', { reason: 'Is the change of name on record?', desk: 'officer' }, office.as('scrutineer'))
    await sortCases(office.product)
    expect([await laneOf(doubtful), (await office.dossier(doubtful)).matters.find(m => m.kind === 'referred')?.owner]).toEqual(['elsewhere',
      'officer'])
    expect(await problemOf(office.act(doubtful, 'accept', {}, office.as('scrutineer')))).toMatchObject({ code: 'act.referred' })
    expect(await takeNext(office.as('scrutineer'), office.cycle, { lane: 'person', passed: [] })).toBeNull()
    await office.act(doubtful, 'answer-referral', { reason: 'Yes, by deed of 2024.' })
    await sortCases(office.product)
    expect([await laneOf(doubtful), (await office.dossier(doubtful)).referrals[0]?.answer]).toEqual(['person', 'Yes, by deed of 2024.'])
    expect(await problemOf(office.act(doubtful, 'answer-referral', { reason: 'Once more.' }))).toMatchObject({ code: 'act.not-referred' })
    expect(await office.db.$count(referral, isNull(referral.answeredAt))).toBe(0)
  })

  it('keeps what was held against a paper for that version and answer alone', async () => {
    const id = await waiting()
    const { files } = await office.dossier(id)
    const image = files['identity-proof']?.id ?? ''
    await keepReading(office.as('scrutineer'), id, { question: 'bornOn', image, result: 'agrees' })
    office.pass(1)
    await keepReading(office.as('scrutineer'), id, { question: 'bornOn', image, result: 'differs' })
    expect((await office.dossier(id)).readings.map(r => [r.question, r.result])).toEqual([['bornOn', 'differs']])
    expect(await problemOf(keepReading(office.as('scrutineer'), id, { question: 'bornOn', image: randomUUID(), result: 'agrees' })))
      .toMatchObject({ code: 'file.unknown' })
    await office.act(id, 'return', { reasons: [{ item: 'bornOn', reason: 'another day on the paper' }] }, office.as('scrutineer'))
    const { revision } = await office.dossier(id)
    await saveAnswers(office.as(), id, { revision, changes: { bornOn: '2003-03-03' } })
    expect((await office.dossier(id)).readings).toEqual([])
  })
})

describe('many at once', () => {
  beforeAll(async () => {
    office = await openOffice()
  })
  afterAll(() => office.close())

  it('sort, take, decide, rule and withdraw without a circle of waiting, and every case is decided once', async () => {
    const same = person()
    const ids = await Promise.all(Array.from({ length: 12 }, (_, i) => waiting(i % 3 === 0 ? same : {})))
    const [one, two] = [office.as('scrutineer'), office.second('scrutineer')]
    const decided: string[] = []
    const work = async (who: typeof one) => {
      for (;;) {
        const taken = await next(who)
        if (!taken) return
        const { pairs } = await listPairs(who, office.cycle, { of: taken.id })
        for (const pair of pairs.filter(p => p.state === 'open')) {
          await judgePair(who, pair.id, { result: 'different', reason: 'twins, by their papers' }).catch(expectRefusal)
        }
        await office.act(taken.id, 'accept', {}, who).then(() => decided.push(taken.id), expectRefusal)
        await layBack(who, taken.id)
      }
    }
    const others = ids.slice(0, 4).map(id => office.act(id, 'withdraw', { reason: 'asked for by telephone' }).catch(expectRefusal))
    await Promise.all([work(one), work(two), sortCases(office.product), sortCases(office.product), ...others])
    await work(one)
    const states = await Promise.all(ids.map(async id => (await office.dossier(id)).headline))
    expect(states.filter(state => state === 'accepted' || state === 'withdrawn').length).toBe(12)
    expect(new Set(decided).size).toBe(decided.length)
  })
})

describe('a second look', () => {
  beforeAll(async () => {
    office = await openOffice({ scrutiny: { acceptancesSeenTwice: 100, onePerson: true, identityQuestion: 'identityNumber' } })
  })
  afterAll(() => office.close())

  it('goes to somebody else, who confirms it or sends it back', async () => {
    const [one, two] = [office.as('scrutineer'), office.second('scrutineer')]
    const id = await waiting()
    expect(await next(one)).toMatchObject({ id })
    expect(await office.act(id, 'accept', {}, one)).toMatchObject({ isDone: false })
    expect([await laneOf(id), await next(one)]).toEqual(['second look', null])
    expect(await next(two)).toMatchObject({ id })
    const [proposal] = (await office.dossier(id)).proposals
    expect(await problemOf(confirmAct(one, proposal?.id ?? ''))).toMatchObject({ code: 'access.second-self' })
    await withdrawProposal(two, proposal?.id ?? '')
    await sortCases(office.product)
    expect(await laneOf(id)).toBe('plain')
    await office.act(id, 'accept', {}, one)
    await confirmAct(two, (await office.dossier(id)).proposals[0]?.id ?? '')
    expect((await office.dossier(id)).headline).toBe('accepted')
  })

  it('accepts one application a person, and the database holds it when two decide at once', async () => {
    const number = { identityNumber: 'SB 555-1234' }
    const [first, second] = [await waiting(number), await waiting({ identityNumber: 'sb5551234' })]
    const accept = async (id: string) => {
      await office.act(id, 'accept', {}, office.as('scrutineer'))
      await confirmAct(office.second('scrutineer'), (await office.dossier(id)).proposals[0]?.id ?? '')
    }
    await accept(first)
    expect(await problemOf(accept(second))).toMatchObject({
      code: 'decision.same-person',
      parameters: { other: (await readApplication(office.db, first)).number },
    })
    // One that left the flow leaves room for the other, and does not come back beside it.
    await office.act(first, 'withdraw', { reason: 'applied once more' })
    await withdrawProposal(office.as(), (await office.dossier(second)).proposals[0]?.id ?? '')
    await accept(second)
    expect(await problemOf(office.act(first, 'bring-back', { reason: 'after all' }))).toMatchObject({ code: 'decision.same-person' })
    await office.act(second, 'take-back-acceptance', { reason: 'to be looked at again' })
    await office.act(first, 'bring-back', { reason: 'after all' })
    await expect(office.db.execute(sql`update application set scrutiny = 'accepted', person_key = 'SB5551234' where id = ${second}`))
      .rejects.toThrow()
  })
})

describe('likely pairs', () => {
  beforeEach(async () => {
    office = await openOffice()
  })
  const twice = async () => {
    const same = person()
    const ids = [await waiting(same), await waiting({
      ...same,
      certificateName: String(same.certificateName).split(' ').reverse().join(' '),
      mobile: '5550999111',
      email: 'new@post.example',
    })]
    await sortCases(office.product)
    return ids as [string, string]
  }

  it('are found when a case comes, hold it, and are asked about once', async () => {
    const [first, second] = await twice()
    const { pairs: [pair] } = await listPairs(office.as('scrutineer'), office.cycle)
    expect([pair?.first.id, pair?.second.id].sort()).toEqual([first, second].sort())
    expect(pair?.reasons.map(r => r.code)).toEqual(['number', 'name', 'born'])
    expect([await laneOf(first), await laneOf(second)]).toEqual(['duplicate', 'duplicate'])
    expect(await problemOf(office.act(first, 'accept', {}, office.as('scrutineer')))).toMatchObject({ code: 'act.likely-duplicate' })
    // Whoever applied never hears of it.
    const owner = await office.candidate()
    await office.db.execute(sql`update application set owner_id = ${owner.id} where id = ${first}`)
    const { readDossier } = await import('../../server/services/applications/dossier')
    expect(JSON.stringify((await readDossier(office.by(owner), first)).matters)).not.toContain('duplicate')

    const judging = await Promise.allSettled([
      judgePair(office.as('scrutineer'), pair?.id ?? '', { result: 'different', reason: 'twins, by their papers' }),
      judgePair(office.second('scrutineer'), pair?.id ?? '', { result: 'different', reason: 'twins, by their papers' }),
    ])
    expect(judging.map(one => one.status).sort()).toEqual(['fulfilled', 'rejected'])
    expect(await findPairs(office.product, office.cycle, () => Promise.resolve(true))).toMatchObject({ found: 0 })
    await sortCases(office.product)
    expect(await office.db.$count(openMatter, and(eq(openMatter.kind, 'likely-duplicate'), isNull(openMatter.clearedAt)))).toBe(0)
    expect(await laneOf(first)).not.toBe('duplicate')
    await office.act(first, 'accept', {}, office.as('scrutineer'))
    await office.close()
  })

  it('of one person leave one application, whose money counts, and owe the other back', async () => {
    const [first, second] = await twice()
    const { pairs: [pair] } = await listPairs(office.as(), office.cycle)
    await judgePair(office.as('scrutineer'), pair?.id ?? '', { result: 'same', stands: second, reason: 'the same passport' })
    expect([(await office.dossier(first)).tracks, (await office.dossier(second)).tracks.form]).toMatchObject([{ form: 'withdrawn' },
      'submitted'])
    await office.act(second, 'accept', {}, office.as('scrutineer'))
    expect(await problemOf(judgePair(office.as(), pair?.id ?? '', { result: 'different', reason: 'after all' }))).toMatchObject({
      code: 'pair.judged',
    })
    // Whoever was set aside by mistake comes back as they were, and is asked about again.
    await office.act(first, 'bring-back', { reason: 'the passports were two' })
    expect((await office.dossier(first)).headline).toBe('in scrutiny')
    await settleMootPairs(office.product)
    await judgePair(office.as(), pair?.id ?? '', { result: 'different', reason: 'after all' })
    await office.close()
  })

  it('need no answer while one side is out of the flow, and do again when it comes back', async () => {
    const [first] = await twice()
    await office.act(first, 'withdraw', { reason: 'applied once more' })
    await settleMootPairs(office.product)
    expect((await office.db.select({ state: likelyPair.state }).from(likelyPair)).map(p => p.state)).toEqual(['moot'])
    await office.act(first, 'bring-back', { reason: 'by mistake' })
    await settleMootPairs(office.product)
    expect((await office.db.select({ state: likelyPair.state }).from(likelyPair)).map(p => p.state)).toEqual(['open'])
    await office.close()
  })
})

describe('reminders', () => {
  beforeAll(async () => {
    office = await openOffice()
  })
  afterAll(() => office.close())

  it('go out once, two days before the last moment, to whoever has not acted', async () => {
    const [draft, returned] = [await office.complete(), await waiting()]
    await office.act(returned, 'return', { reasons: [{ item: 'bornOn', reason: 'another day on the paper' }] }, office.as('scrutineer'))
    expect(await remindInTime(office.product)).toBe(0)
    const { openUntil } = await office.dossier(returned)
    const before = (instant: string, hours: number) => {
      office.now = new Date(Date.parse(instant) - hours * 3_600_000)
    }
    const told = async () =>
      (await office.db.select({ id: message.applicationId, parameters: message.parameters }).from(message)
        .where(eq(message.kind, 'remind'))).map(one => [one.id, one.parameters.what])
    for (
      const [instant, id, what] of [[openUntil ?? '', returned, 'returned'], [office.notice.keyDates.closes, draft, 'drafting']].sort() as [
        string,
        string,
        string,
      ][]
    ) {
      before(instant, 60)
      const known = (await told()).length
      expect(await remindInTime(office.product)).toBe(0)
      before(instant, 40)
      expect(await Promise.all([remindInTime(office.product), remindInTime(office.product)]).then(counts =>
        counts.reduce((a, b) => a + b, 0)
      )).toBe(1)
      expect((await told()).slice(known)).toEqual([[id, what]])
      expect(await remindInTime(office.product)).toBe(0)
    }
  })
})
