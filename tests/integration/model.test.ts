import { and, eq, isNull, sql } from 'drizzle-orm'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { judgeActs } from '../../core/application/acts/judge'
import type { ActId } from '../../core/application/acts/rule'
import { headline, type Tracks } from '../../core/application/tracks'
import { admitCard, application, auditEvent, openMatter, paperForm as paperForms, seat } from '../../server/database/schema'
import { factsOf } from '../../server/services/acts/facts'
import { mattersNow } from '../../server/services/acts/matters'
import { confirmAct, performAct } from '../../server/services/acts/named'
import { withdrawProposal } from '../../server/services/acts/proposals'
import { saveAnswers } from '../../server/services/applications/answers'
import { openRequests } from '../../core/application/requests'
import { decidedAnswers, readApplication, tracksOf } from '../../server/services/applications/store'
import { textsOnPaper } from '../../server/services/applications/texts'
import { takeInHand } from '../../server/services/scrutiny/queue'
import { sortCases } from '../../server/services/scrutiny/sorting'
import { readBand, readRoster } from '../../server/services/roster/page'
import { saveSecondKeying } from '../../server/services/keying/second'
import { lapseOverdue } from '../../server/services/clock/lapse'
import { saveCorrection } from '../../server/services/corrections/draft'
import { applyReadyCorrections, endCorrections } from '../../server/services/corrections/end'
import { publishRun } from '../../server/services/centres/publish'
import type { Caller } from '../../server/services/context'
import { openPayment, sweepOverduePayments } from '../../server/services/fees/payments'
import { receiveGatewayEvent } from '../../server/services/fees/events'
import { moneyOf, receivedFor, stateOfMoney, type MoneyStanding } from '../../server/services/fees/received'
import { namedActs, type NamedAct } from '../../shared/acts'
import { ProblemError } from '../../shared/problem'
import { openOffice, type Office } from '../support/office'
import { sampleAnswers, testNow } from '../support/sample'

/**
 * Random sequences of every act there is, by every principal and the clock, on the real database. After each step nothing may be
 * impossible, the headline is the same wherever it is read, an act has left one row of the log and a refused one none.
 */
let office: Office
const always = { opens: '2026-11-01T00:00:00Z', closes: '2027-03-01T00:00:00Z' }
beforeAll(async () => {
  office = await openOffice({
    corrections: [
      {
        id: 'contact',
        title: 'Contact',
        items: ['mobile', 'exceptionWhy'],
        by: ['candidate', 'office'],
        takesEffect: 'handed in',
        ...always,
      },
      { id: 'home', title: 'Address', items: ['address', 'lowIncome'], by: ['candidate', 'office'], charge: 5000, ...always },
    ],
  })
})
afterAll(() => office.close())

const reason = 'as the model asks'
type Who = 'officer' | 'second' | 'scrutineer' | 'accounts' | 'auditor' | 'owner' | 'stranger'
type Step =
  | { do: NamedAct, who: Who, outside: boolean }
  | { do: 'save-answers', who: Who, field: 'address' | 'board' | 'mobile', value: number }
  | { do: 'correct', who: Who, field: 'address' | 'mobile' | 'lowIncome' | 'bornOn' | 'exceptionWhy', value: number }
  | { do: 'key again', who: Who, value: number }
  | { do: 'pay' | 'decline' | 'silent' | 'sweep' | 'clock' | 'sort' | 'take' | 'publish' | 'confirm', who: Who }
  | { do: 'days', days: number }

const who = fc.constantFrom<Who>(
  'officer',
  'officer',
  'officer',
  'second',
  'scrutineer',
  'scrutineer',
  'accounts',
  'auditor',
  'owner',
  'owner',
  'stranger',
)
const anyStep: fc.Arbitrary<Step> = fc.oneof(
  { weight: 12, arbitrary: fc.record({ do: fc.constantFrom(...namedActs), who, outside: fc.boolean() }) },
  {
    weight: 2,
    arbitrary: fc.record({
      do: fc.constant('save-answers' as const),
      who,
      field: fc.constantFrom('address', 'board', 'mobile'),
      value: fc.integer({ min: 0, max: 3 }),
    }),
  },
  {
    weight: 3,
    arbitrary: fc.record({
      do: fc.constant('correct' as const),
      who,
      field: fc.constantFrom('address', 'mobile', 'lowIncome', 'bornOn', 'exceptionWhy'),
      value: fc.integer({ min: 0, max: 3 }),
    }),
  },
  { weight: 2, arbitrary: fc.record({ do: fc.constant('key again' as const), who, value: fc.integer({ min: 0, max: 1 }) }) },
  {
    weight: 5,
    arbitrary: fc.record({
      do: fc.constantFrom(
        'pay',
        'pay',
        'pay',
        'decline',
        'silent',
        'sweep',
        'clock',
        'sort',
        'take',
        'publish',
        'publish',
        'confirm',
        'confirm',
      ),
      who,
    }),
  },
  { weight: 1, arbitrary: fc.record({ do: fc.constant('days' as const), days: fc.integer({ min: 1, max: 9 }) }) },
)
// A plausible way to begin, so that late acts are reached often; random steps stand between its own.
const usualWay: Step[] = [
  { do: 'submit', who: 'owner', outside: true },
  { do: 'pay', who: 'owner' },
  { do: 'decide-request', who: 'scrutineer', outside: false },
  { do: 'accept', who: 'scrutineer', outside: true },
  { do: 'publish', who: 'officer' },
  { do: 'issue-card', who: 'officer', outside: true },
]

const input = (act: NamedAct, revision: number): Record<string, unknown> => {
  if (act === 'submit') return { revision, declared: true, texts: textsOnPaper(office.notice) }
  if (act === 'accept-texts') return { texts: textsOnPaper(office.notice) }
  if (act === 'open-for-correction') return { items: ['address'] }
  if (act === 'give-access') return { channel: 'email', address: 'somebody@ferry.example' }
  if (act === 'settle-keying') {
    return {
      settlements: (['address', 'mobile'] as const).map((question, i) => ({
        question,
        row: null,
        column: null,
        keep: (revision + i) % 2 === 0 ? 'first' : 'second',
      })),
    }
  }
  if (act === 'refer') return { desk: 'officer' }
  if (act === 'decide-request') return { request: 'age-exception', word: revision % 2 === 0 ? 'granted' : 'declined' }
  if (act === 'return' || act === 'refuse') return { reasons: [{ item: 'address', reason }] }
  return {}
}

// The same of a paper form before that.
const paperWay: Step[] = [{ do: 'finish-keying', who: 'officer', outside: false }, { do: 'key again', who: 'second', value: 0 }, {
  do: 'finish-second-keying',
  who: 'second',
  outside: false,
}, { do: 'settle-keying', who: 'second', outside: false }]

async function paperForm(): Promise<string> {
  const id = await office.complete()
  await office.db.update(application).set({ keying: 'first', receivedAt: office.now }).where(eq(application.id, id))
  await office.db.insert(paperForms).values({ applicationId: id, reference: '' })
  return id
}

class Model {
  proposals: string[] = []
  constructor(readonly id: string, readonly callers: Record<Who, Caller>) {}

  async step(step: Step): Promise<void> {
    if (step.do === 'days') return office.pass(step.days * 24 * 60)
    const caller = this.callers[step.who]
    const row = await readApplication(office.db, this.id)
    switch (step.do) {
      case 'save-answers':
        return void await saveAnswers(caller, this.id, {
          revision: row.revision,
          changes: { [step.field]: step.field === 'mobile' ? `555010004${step.value}` : `${step.field} ${step.value}` },
        }, { reason, outsideDates: step.value > 1 })
      case 'correct': {
        const value = {
          address: `address ${step.value}`,
          mobile: `555010004${step.value}`,
          lowIncome: step.value % 2 === 0 ? 'yes' : 'no',
          bornOn: `2004-06-1${step.value}`,
          exceptionWhy: `why ${step.value}`,
        }[step.field]
        return void await saveCorrection(caller, this.id, { changes: { [step.field]: value }, reason, outsideDates: true })
      }
      case 'key again':
        return void await saveSecondKeying(caller, this.id, {
          ...row.answers,
          address: step.value === 0 ? 'another quay' : row.answers.address ?? '',
        })
      case 'pay':
      case 'decline':
      case 'silent': {
        const { order } = await openPayment(caller, office.gateway, this.id, { reason, outsideDates: true })
        for (const event of await office.gateway.act(order, step.do)) await receiveGatewayEvent(office.product, office.gateway, event)
        return
      }
      case 'sweep': {
        office.pass(4)
        return void await sweepOverduePayments(office.product, office.gateway)
      }
      case 'clock':
        return void await Promise.all([lapseOverdue, endCorrections, applyReadyCorrections].map(act => act(office.product)))
      case 'sort':
        return void await sortCases(office.product)
      case 'take':
        return void await takeInHand(caller, this.id)
      case 'publish':
        return void await publishRun(caller, (await office.run()).runId, { reason, outsideDates: true })
      case 'confirm':
        return this.proposals[0] === undefined ? undefined : confirmAct(caller, this.proposals.shift() ?? '')
      default: {
        const carried = await performAct(caller, step.do, this.id, {
          ...input(step.do, row.revision),
          reason,
          ...(step.outside ? { outsideDates: true } : {}),
        })
        if (!carried.isDone) this.proposals.push(carried.proposal)
      }
    }
  }
}

async function history(id: string): Promise<{ act: ActId }[]> {
  return await office.db.select({ act: auditEvent.act }).from(auditEvent).where(eq(auditEvent.subject, id)).orderBy(auditEvent.id) as {
    act: ActId,
  }[]
}

/** What holds after every step, whatever came before. */
async function checkInvariants(id: string): Promise<Tracks> {
  const row = await readApplication(office.db, id)
  const tracks = tracksOf(row)
  expect(row.headline).toBe(headline(tracks))
  const dossier = await office.dossier(id)
  expect(dossier.headline).toBe(row.headline)
  const found = await readRoster(office.as(), office.cycle, { is: [`at:${row.headline}`], search: row.number, sort: 'number', limit: 1 })
  expect(found.rows.map(r => [r.id, r.headline])).toEqual([[id, row.headline]])
  const band = await readBand(office.as(), office.cycle)
  const here = band.points.find(p => p.headline === row.headline)
  if (here) {
    expect(here.count)
      .toBe(await office.db.$count(application, and(eq(application.cycle, office.cycle), eq(application.headline, row.headline))))
  }

  // Its entry in the roster and its case are what they would be if they were written now; nobody accepts what a desk is still asked about.
  const { rows: [entry] } = await office.db.execute<
    { same: boolean, waits: boolean, asked: boolean }
  >(sql`select e.tags = roster_tags(a) and e.headline = a.headline as same,
    exists (select 1 from scrutiny_case c where c.application_id = a.id) as waits, exists (select 1 from referral r where r.application_id = a.id and r.answered_at is null) as asked
    from application a join roster_entry e on e.application_id = a.id where a.id = ${id}`)
  expect([entry?.same, entry?.waits]).toEqual([true, row.headline === 'in scrutiny'])
  if (entry?.asked) expect(tracks.scrutiny).not.toBe('accepted')

  const [held] = await office.db.select().from(seat).where(eq(seat.applicationId, id))
  const cards = await office.db.select().from(admitCard).where(and(eq(admitCard.applicationId, id), isNull(admitCard.voidAt)))
  expect(held !== undefined).toBe(tracks.placement === 'published' || tracks.placement === 'moved')
  expect(cards.length).toBeLessThanOrEqual(1)
  if (tracks.card === 'issued' || tracks.card === 'replaced') expect([cards.length, held !== undefined]).toEqual([1, true])
  if (tracks.card === 'not issued') expect(cards).toEqual([])
  // Nobody has a card in hand while what they ask for is not decided.
  if (cards.length > 0) expect(openRequests(office.notice, decidedAnswers(office.notice, row))).toEqual([])
  if (held) expect([tracks.scrutiny, tracks.form]).toEqual(['accepted', 'submitted'])
  // A paper form is handed in only once two people agree on it.
  if (row.keying !== null && tracks.form === 'submitted') expect(row.keying).toBe('agreed')
  if (tracks.scrutiny === 'waiting' && tracks.form === 'submitted') expect(['settled', 'nothing due', 'refund due']).toContain(tracks.fee)
  if (tracks.scrutiny === 'returned') {
    expect(tracks.form === 'correcting' || tracks.form === 'withdrawn' || tracks.form === 'lapsed').toBe(true)
  }

  const now = await mattersNow(office.db, office.product, row, office.notice)
  const kept = await office.db.select().from(openMatter).where(and(eq(openMatter.applicationId, id), isNull(openMatter.clearedAt)))
  expect(kept.map(m => `${m.kind}/${m.about}`).sort()).toEqual(now.map(m => `${m.kind}/${m.about}`).sort())

  const { rows: [sum] } = await office.db
    .execute(sql`select coalesce(sum(l.amount), 0)::int as n from ledger_line l join ledger_transaction t on t.id = l.transaction_id where t.application_id = ${id}`)
  expect(sum).toEqual({ n: 0 })
  const [charged] =
    (await office.db
      .execute(sql`select coalesce(sum(amount), 0)::int as n from standin_gateway_order where state = 'charged' and id like ${`${row.number}.%`}`))
      .rows as { n: number }[]
  const [waiting] = (await office.db.execute(sql`select count(*)::int as n from payment where application_id = ${id} and state = 'open'`))
    .rows as { n: number }[]
  const { rows: [owed] } = await office.db
    .execute(sql`select coalesce(sum(l.amount), 0)::int as n from ledger_line l join ledger_transaction t on t.id = l.transaction_id where t.application_id = ${id} and l.account = 'receivable'`)
  // Money is held for a correction that was handed in, and for nothing else.
  const { rows: [asked] } = await office.db.execute<
    { holds: number }
  >(sql`select coalesce(sum(holds), 0)::int as holds from correction where application_id = ${id} and state in ('unpaid', 'waiting')`)
  expect(owed?.n).toBeGreaterThanOrEqual(-(asked?.holds ?? 0))
  expect((await moneyOf(office.db, office.product, [id])).get(id)).toSatisfy((money: MoneyStanding) =>
    tracks.fee === 'confirming' || money.assessed === null || stateOfMoney(money) === tracks.fee
  )
  const isAsked = dossier.correction === 'waiting' || dossier.correction === 'unpaid'
  if (!['withdrawn', 'lapsed', 'refused'].includes(row.headline)) {
    expect(dossier.matters.some(m => m.kind === 'correction-waits' || m.kind === 'correction-unpaid')).toBe(isAsked)
  }
  if (waiting?.n === 0) expect(await receivedFor(office.db, id)).toBe(charged?.n)
  return tracks
}

describe('any sequence of acts', () => {
  it('leads to no impossible state, and every act leaves its row', async () => {
    const stranger = await office.candidate('Some Stranger')
    const reached = new Set<string>()
    await fc.assert(
      fc.asyncProperty(
        fc.array(anyStep, { minLength: 2, maxLength: 14 }),
        fc.array(fc.nat(20), { minLength: usualWay.length, maxLength: usualWay.length }),
        fc.boolean(),
        async (random, places, isPaper) => {
          office.now = testNow
          const owner = await office.candidate()
          const callers: Record<Who, Caller> = {
            officer: office.as(),
            second: office.second(),
            scrutineer: office.as('scrutineer'),
            accounts: office.as('accounts'),
            auditor: office.as('auditor'),
            owner: isPaper ? office.as() : office.by(owner),
            stranger: office.by(stranger),
          }
          const id = isPaper ? await paperForm() : await office.complete(owner)
          await saveAnswers(callers.owner, id, { revision: 1, changes: { ageException: 'yes', exceptionWhy: 'a light' } })
          const model = new Model(id, callers)
          const steps = [...isPaper ? paperWay : [], ...random]
          usualWay.forEach((step, i) => steps.splice(Math.min(steps.length, (places[i] ?? 0) % (steps.length + 1) + i), 0, step))
          for (const step of steps) {
            if (!await exists(id)) break
            const before = await history(id)
            const tracks = tracksOf(await readApplication(office.db, id))
            const problem = await model.step(step).then(() => null, (error: unknown) => error)
            if (problem !== null && !(problem instanceof ProblemError)) throw problem
            const after = await history(id)
            if (step.do in { ...Object.fromEntries(namedActs.map(a => [a, 1])), 'save-answers': 1 } && problem === null) {
              // The act itself once; what follows from it (a fee assessed anew) has rows of its own.
              const own = after.slice(before.length).filter(e => e.act !== 'assess-fee' && e.act !== 'apply-correction')
              expect(own.length).toBeLessThanOrEqual(1)
            }
            if (
              problem && step.do !== 'sweep' && step.do !== 'clock' && step.do !== 'publish' && step.do !== 'pay' && step.do !== 'correct'
              && step.do !== 'key again'
            ) expect([step, after.length]).toEqual([step, before.length])
            if (!await exists(id)) break
            const now = await checkInvariants(id)
            if (step.do !== 'days' && (step.who === 'stranger' || step.who === 'auditor')) {
              expect([step, problem !== null || step.do === 'confirm' || step.do === 'clock' || step.do === 'sweep'
                || JSON.stringify(now) === JSON.stringify(tracks)]).toEqual([step, true])
            }
            reached.add(headline(now))
          }
        },
      ),
      {
        numRuns: Number(process.env.LUCID_MODEL_RUNS ?? 30),
        // A failure is told at once: making it small takes longer than a test may.
        endOnFailure: true,
        examples: [[[], [0, 1, 2, 3, 4, 5], false], [[], [4, 4, 4, 4, 4, 4], true], [[{ do: 'withdraw', who: 'owner', outside: true }, {
          do: 'bring-back',
          who: 'owner',
          outside: true,
        }], [9, 9, 9, 9, 9, 9], false]],
      },
    )
    // The walk is worth something only when it comes far.
    for (const point of ['drafting', 'fee due', 'in scrutiny', 'accepted', 'placed', 'card issued', 'withdrawn']) {
      expect([...reached]).toContain(point)
    }
  }, 900_000)
})

async function exists(id: string): Promise<boolean> {
  return await office.db.$count(application, eq(application.id, id)) > 0
}

describe('taking back', () => {
  const pairs: [NamedAct, NamedAct, Record<string, unknown>, 'drafting' | 'scrutiny' | 'accepted'][] = [
    ['submit', 'take-back-submission', {}, 'drafting'],
    ['accept', 'take-back-acceptance', {}, 'scrutiny'],
    ['return', 'recall-return', { reasons: [{ item: 'address', reason }] }, 'scrutiny'],
    ['withdraw', 'bring-back', {}, 'accepted'],
    ['open-for-correction', 'close-correction', { items: ['address'] }, 'accepted'],
  ]

  it.each(pairs)(
    '%s is really taken back by %s: tracks and open matters are as before, and both rows stand',
    async (act, back, extra, from) => {
      office.now = testNow
      const id = await office.at(from)
      const tracks = (await office.dossier(id)).tracks
      const matters = async () => (await office.dossier(id)).matters.map(m => `${m.kind}/${m.about}`)
      const before = await matters()
      const { revision } = await office.dossier(id)
      await office.act(id, act, { ...extra, ...(act === 'submit' ? { revision, declared: true } : {}), reason })
      expect((await office.dossier(id)).tracks).not.toEqual(tracks)
      await office.act(id, back, { reason })
      // A fee that was assessed stays assessed: money is compensated, not restored.
      expect((await office.dossier(id)).tracks).toEqual(act === 'submit' ? { ...tracks, fee: 'due' } : tracks)
      expect(await matters()).toEqual(before)
      const acts = (await history(id)).map(h => h.act)
      expect([acts.includes(act), acts.includes(back)]).toEqual([true, true])
    },
  )

  it('needs a second person for a refusal that was sent, and who began it cannot be that person', async () => {
    office.now = testNow
    const id = await office.at('scrutiny')
    await office.act(id, 'refuse', { reasons: [{ item: 'category', reason }] }, office.as('scrutineer'))
    const begun = await office.act(id, 'take-back-refusal', { reason: 'The wrong person was refused' }, office.as('scrutineer'))
    if (begun.isDone) throw new Error('nobody else was asked')
    expect((await office.dossier(id)).headline).toBe('refused')
    expect((await office.dossier(id)).proposals).toMatchObject([{
      act: 'take-back-refusal',
      reason: 'The wrong person was refused',
      by: 'the scrutineer',
    }])
    await expect(office.act(id, 'take-back-refusal', { reason }, office.second('scrutineer'))).rejects.toThrow('the scrutineer began it')
    await expect(confirmAct(office.as('scrutineer'), begun.proposal)).rejects.toMatchObject({ problem: { code: 'access.second-self' } })
    await expect(confirmAct(office.as('auditor'), begun.proposal)).rejects.toMatchObject({ problem: { code: 'access.role' } })
    await expect(withdrawProposal(office.as('auditor'), begun.proposal)).rejects.toMatchObject({ problem: { code: 'access.role' } })
    await confirmAct(office.second('scrutineer'), begun.proposal)
    expect((await office.dossier(id)).headline).toBe('in scrutiny')
    await expect(confirmAct(office.second('scrutineer'), begun.proposal)).rejects.toMatchObject({ problem: { code: 'act.proposal-over' } })
  })
})

describe('for every principal', () => {
  it('the acts that the dossier offers are those that the service carries out', async () => {
    office.now = testNow
    const id = await office.complete(await office.candidate())
    const row = await readApplication(office.db, id)
    for (const caller of [office.as(), office.as('scrutineer'), office.as('auditor')]) {
      const offered = judgeActs(caller.principal, [], await factsOf(office.db, row, office.notice), office.notice, office.now)
      for (const { act, refusal } of offered) {
        if (!refusal || !(act in Object.fromEntries(namedActs.map(a => [a, 1])))) continue
        await expect(performAct(caller, act as NamedAct, id, { ...input(act as NamedAct, row.revision), reason })).rejects.toMatchObject({
          problem: { code: refusal.code },
        })
      }
    }
    expect(sampleAnswers.address).toBeTruthy()
  })
})
