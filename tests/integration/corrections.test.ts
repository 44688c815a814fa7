import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Principal } from '../../core/access/principal'
import { message, seat } from '../../server/database/schema'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { inspectorWith } from '../../pictures/inspect'
import { saveAnswers } from '../../server/services/applications/answers'
import { saveCorrection, dropCorrection } from '../../server/services/corrections/draft'
import { applyReadyCorrections, endCorrections } from '../../server/services/corrections/end'
import { listCorrections, readCorrection } from '../../server/services/corrections/view'
import { openPayment } from '../../server/services/fees/payments'
import { receiveGatewayEvent } from '../../server/services/fees/events'
import { lapseOverdue } from '../../server/services/clock/lapse'
import { addImage } from '../../server/services/images/store'
import { balances } from '../support/books'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'

const open = { opens: '2026-11-01T00:00:00Z', closes: '2027-03-01T00:00:00Z' }
const rules = [
  {
    id: 'contact',
    title: 'Where you are reached',
    items: ['mobile', 'email', 'address'],
    by: ['candidate', 'office'],
    takesEffect: 'handed in',
    ...open,
  },
  {
    id: 'spelling',
    title: 'Spelling of the name',
    items: ['certificateName'],
    by: ['candidate'],
    charge: 5000,
    proof: { title: 'Proof of the name', formats: ['pdf', 'jpeg'], bytes: { max: 2_000_000 } },
    ...open,
  },
  {
    id: 'person',
    title: 'Posts and cities',
    items: ['posts', 'cities', 'pwd', 'photograph'],
    by: ['candidate'],
    ...open,
    closes: '2026-12-20T00:00:00Z',
  },
]

let office: Office
let owner: Principal
beforeAll(async () => {
  office = await openOffice({ corrections: rules })
  owner = await office.candidate()
})
afterAll(() => office.close())

const me = () => office.by(owner)
const judge = () => office.as('scrutineer')
async function accepted(): Promise<string> {
  const id = await office.complete(owner)
  await office.act(id, 'submit', { revision: 1, declared: true })
  await office.settle(id)
  await office.act(id, 'accept', {}, judge())
  return id
}
async function pay(id: string): Promise<number> {
  const { order, amount } = await openPayment(me(), office.gateway, id)
  for (const event of await office.gateway.act(order, 'pay')) await receiveGatewayEvent(office.product, office.gateway, event)
  return amount
}
const proof = (id: string, seed = 4) =>
  drawPortrait(new Random(seed), 'none').then(bytes =>
    addImage(me(), inspectorWith(), id, 'proof.spelling', { bytes, forCorrection: true })
  )
describe('a correction that a candidate begins', () => {
  it('takes effect at once where nobody judges by it, and leaves the acceptance', async () => {
    const id = await accepted()
    const before = await office.dossier(id)
    await saveCorrection(me(), id, { changes: { mobile: '5550107777', address: before.answers.address ?? '' } })
    expect((await office.dossier(id)).answers.mobile).toBe(before.answers.mobile)
    await office.act(id, 'ask-correction', {}, me())
    const after = await office.dossier(id)
    expect([after.answers.mobile, after.tracks, after.correction, after.revision]).toEqual(['5550107777', before.tracks, null,
      before.revision + 1])
    expect(after.history.slice(0, 2).map(row => row.act)).toEqual(['apply-correction', 'ask-correction'])
    expect(await readCorrection(me(), id)).toMatchObject({
      state: 'accepted',
      changes: [{ item: 'mobile', before: before.answers.mobile, after: '5550107777' }],
    })
  })

  it('waits for its proof, its money and the office, and changes nothing until then', async () => {
    const id = await accepted()
    const start = await office.dossier(id)
    const draft = await saveCorrection(me(), id, { changes: { certificateName: 'Tavirel Osk-Anunde' }, reason: 'without the accent' })
    expect(draft).toMatchObject({
      state: 'drafting',
      lacks: ['Proof of the name'],
      owes: { total: 5000, open: 5000, charge: 5000 },
      effects: { fee: { charge: 5000 }, seat: 'none', card: 'none' },
    })
    expect(await problemOf(office.act(id, 'ask-correction', {}, me()))).toMatchObject({ code: 'sheet.files-missing' })
    await proof(id)
    await office.act(id, 'ask-correction', {}, me())
    expect(await readCorrection(me(), id)).toMatchObject({ state: 'unpaid', owes: { total: 5000, open: 5000 } })
    // The fee itself is paid, and nobody lapses or leaves scrutiny for a charge.
    expect((await office.dossier(id)).tracks).toEqual(start.tracks)
    expect((await office.dossier(id)).matters.map(m => m.kind)).toContain('correction-unpaid')
    expect(await problemOf(saveCorrection(me(), id, { changes: {} }))).toMatchObject({ code: 'act.correction-asked' })
    expect(await pay(id)).toBe(5000)
    expect(await readCorrection(me(), id)).toMatchObject({ state: 'waiting', owes: { total: 5000, open: 0 } })
    // What is held for it is neither owed back nor income yet.
    expect(await balances(office, id)).toMatchObject({ receivable: -5000 })
    expect((await office.dossier(id)).tracks.fee).toBe('settled')
    expect((await listCorrections(judge(), office.cycle)).rows.map(row => row.applicationId)).toContain(id)
    await office.act(id, 'accept-correction', {}, judge())
    const after = await office.dossier(id)
    expect([after.name, after.tracks.scrutiny, after.tracks.fee, after.assessment?.items.at(-1)]).toMatchObject(['Tavirel Osk-Anunde',
      'accepted', 'settled', { code: 'correction', amount: 5000 }])
    expect(await balances(office, id)).toMatchObject({ receivable: 0 })
    expect(await problemOf(office.act(id, 'accept-correction', {}, office.second('scrutineer')))).toMatchObject({
      code: 'act.no-correction',
    })
  })

  it('leaves all as it was when it is refused or taken back, and owes what was paid for it', async () => {
    for (const end of ['refuse-correction', 'take-back-correction'] as const) {
      const id = await accepted()
      await saveCorrection(me(), id, { changes: { certificateName: 'Somebody Else' } })
      await proof(id, 9)
      await office.act(id, 'ask-correction', {}, me())
      await pay(id)
      await office.act(id, end, { reason: 'the paper says otherwise' }, end === 'refuse-correction' ? judge() : me())
      const after = await office.dossier(id)
      expect([after.name, after.tracks.fee, after.tracks.scrutiny]).toEqual(['Tavirel Osk-Anundé', 'refund due', 'accepted'])
      expect(await balances(office, id)).toMatchObject({ 'receivable': 0, 'refunds payable': -5000 })
      // What is owed back pays the next one.
      await saveCorrection(me(), id, { changes: { certificateName: 'Tavirel Osk' } })
      await proof(id, 10)
      await office.act(id, 'ask-correction', {}, me())
      expect([(await readCorrection(me(), id)).state, (await office.dossier(id)).tracks.fee, await balances(office, id)]).toMatchObject([
        'waiting',
        'settled',
        { 'receivable': -5000, 'refunds payable': 0 },
      ])
    }
  })

  it('refuses what no rule opens, what others began, and a form that would be wrong, each by its name', async () => {
    const id = await accepted()
    expect(await problemOf(saveCorrection(me(), id, { changes: { bornOn: '2003-01-01' } }))).toMatchObject({
      code: 'correction.item-closed',
    })
    expect(await problemOf(saveCorrection(me(), id, { changes: { nonsense: 'x' } }))).toMatchObject({ code: 'sheet.question-unknown' })
    const stranger = office.by(await office.candidate('Somebody'))
    expect(await problemOf(saveCorrection(stranger, id, { changes: { mobile: '5550101111' } }))).toMatchObject({ code: 'access.relation' })
    expect(await problemOf(office.act(id, 'ask-correction', {}, me()))).toMatchObject({ code: 'act.no-correction' })
    await saveCorrection(me(), id, { changes: { mobile: '12' } })
    expect(await problemOf(office.act(id, 'ask-correction', {}, me()))).toMatchObject({ code: 'sheet.incomplete' })
    await dropCorrection(me(), id)
    expect((await office.dossier(id)).correction).toBeNull()
    await saveCorrection(me(), id, { changes: {} })
    expect(await problemOf(office.act(id, 'ask-correction', {}, me()))).toMatchObject({ code: 'correction.nothing' })
    // An officer goes beyond the rules with a reason, and somebody else lets it take effect.
    expect(await problemOf(saveCorrection(office.as(), id, { changes: { bornOn: '2004-06-16' } }))).toMatchObject({
      code: 'dates.no-correction',
    })
    await saveCorrection(office.as(), id, { changes: { bornOn: '2004-06-16' }, reason: 'misread on the certificate', outsideDates: true })
    await office.act(id, 'ask-correction', { reason: 'misread on the certificate', outsideDates: true })
    expect(await problemOf(office.act(id, 'accept-correction'))).toMatchObject({ code: 'correction.own' })
    await office.act(id, 'accept-correction', {}, office.second())
    const { answers, history } = await office.dossier(id)
    expect([answers.bornOn, history.find(row => row.act === 'ask-correction')?.outsideDates]).toEqual(['2004-06-16', true])
  })

  it('is looked at where the fee changes, and is paid before it counts', async () => {
    const id = await office.complete(owner)
    await saveAnswers(me(), id, { revision: 1, changes: { posts: ['pilot-cadet'] } })
    await office.act(id, 'submit', { revision: 2, declared: true })
    await office.settle(id)
    const { assessment } = await office.dossier(id)
    const more = office.notice.fees.further[0]?.amount ?? 0
    const draft = await saveCorrection(me(), id, { changes: { posts: ['pilot-cadet', 'lighthouse-keeper'] } })
    expect(draft).toMatchObject({
      lacks: [],
      faults: [],
      owes: { total: more, open: more, charge: 0 },
      effects: { fee: { before: assessment?.total, after: (assessment?.total ?? 0) + more } },
    })
    await office.act(id, 'ask-correction', {}, me())
    expect(await pay(id)).toBe(more)
    // Nobody decides on a case while a correction of it waits.
    for (const act of ['accept', 'return', 'refuse'] as const) {
      expect(await problemOf(office.act(id, act, { reasons: [{ item: 'posts', reason: 'tried here' }] }, judge()))).toMatchObject({
        code: 'act.correction-waits',
      })
    }
    await office.act(id, 'accept-correction', {}, judge())
    expect([(await office.dossier(id)).tracks.fee, (await office.dossier(id)).assessment?.total, await balances(office, id)])
      .toMatchObject(['settled', (assessment?.total ?? 0) + more, { receivable: 0 }])
  })

  it('ends by the clock unpaid, with its application, and never the application with it', async () => {
    const [late, gone] = [await accepted(), await accepted()]
    for (const id of [late, gone]) {
      await saveCorrection(me(), id, { changes: { certificateName: 'Tavirel Osk' } })
      await proof(id, 12)
      await office.act(id, 'ask-correction', {}, me())
    }
    await office.act(gone, 'withdraw', { reason: 'goes elsewhere' }, me())
    expect(await endCorrections(office.product)).toBe(1)
    expect([(await readCorrection(me(), gone)).state, (await readCorrection(me(), late)).state]).toEqual(['ended', 'unpaid'])
    const kept = office.now
    office.now = new Date(open.closes)
    await lapseOverdue(office.product)
    expect(await endCorrections(office.product)).toBeGreaterThan(0)
    expect([(await readCorrection(me(), late)).state, (await office.dossier(late)).tracks]).toMatchObject(['ended', {
      form: 'submitted',
      scrutiny: 'accepted',
    }])
    expect(await problemOf(saveCorrection(me(), late, { changes: { mobile: '5550101234' } }))).toMatchObject({
      code: 'correction.item-closed',
    })
    office.now = kept
    expect(await office.db.select().from(message).where(sql`${message.applicationId} = ${late} and ${message.kind} = 'end-correction'`))
      .toHaveLength(1)
  })
})

describe('a correction after seat and card', () => {
  const withCard = async () => {
    const id = await accepted()
    await office.publish((await office.run()).runId)
    await office.issue(id)
    return id
  }

  it('makes a new card where the card would say otherwise, and voids the old', async () => {
    const id = await withCard()
    const before = await office.dossier(id)
    await saveCorrection(me(), id, { changes: { mobile: '5550108888' } })
    await office.act(id, 'ask-correction', {}, me())
    expect((await office.dossier(id)).card).toEqual(before.card)
    const draft = await saveCorrection(me(), id, { changes: { certificateName: 'Tavirel Osk' } })
    expect(draft.effects).toMatchObject({ seat: 'kept', card: 'made anew' })
    await proof(id, 20)
    await office.act(id, 'ask-correction', {}, me())
    await pay(id)
    await office.act(id, 'accept-correction', {}, judge())
    const after = await office.dossier(id)
    expect([after.card?.version, after.card?.voidAt, after.tracks.card, after.placement]).toEqual([2, null, 'replaced', before.placement])
  })

  it('gives a seat up only where the person could not sit there, and takes a new photograph once it counts', async () => {
    const id = await withCard()
    const [held] = await office.db.select().from(seat).where(eq(seat.applicationId, id))
    const others = office.notice.cities.map(city => city.id).filter(city => city !== held?.city).slice(0, 3)
    const photograph = (await office.dossier(id)).files.photograph?.version
    await saveCorrection(me(), id, { changes: {} })
    await addImage(me(), inspectorWith(), id, 'photograph', { bytes: await drawPortrait(new Random(31), 'none'), forCorrection: true })
    expect((await office.dossier(id)).files.photograph?.version).toBe(photograph)
    await office.act(id, 'ask-correction', {}, me())
    await office.act(id, 'accept-correction', {}, judge())
    expect((await office.dossier(id)).files.photograph?.version).toBe((photograph ?? 0) + 1)
    const moved = await saveCorrection(me(), id, { changes: { cities: others } })
    expect(moved.effects).toMatchObject({ seat: 'given up', seatWhy: 'city', card: 'made anew' })
    await office.act(id, 'ask-correction', {}, me())
    await office.act(id, 'accept-correction', {}, judge())
    const after = await office.dossier(id)
    expect([after.tracks, after.placement, after.card?.voidAt === null]).toMatchObject([{
      scrutiny: 'accepted',
      placement: 'unplaced',
      card: 'not issued',
    }, null, false])
  })

  it('written by two at once loses nothing of either, and leaves what is taken out again as it is in the form', async () => {
    const id = await accepted()
    await Promise.all([saveCorrection(me(), id, { changes: { mobile: '5550103333' } }),
      saveCorrection(me(), id, { changes: { certificateName: 'Tavirel Osk' } })])
    const both = await saveCorrection(me(), id, { changes: {} })
    expect(both.changes.map(change => [change.item, change.after]).sort()).toEqual([['certificateName', 'Tavirel Osk'], ['mobile',
      '5550103333']])
    expect((await saveCorrection(me(), id, { changes: { certificateName: null } })).changes.map(change => change.item)).toEqual(['mobile'])
    await dropCorrection(me(), id)
  })

  it('is not accepted over what was changed meanwhile, and one cut off in the middle is finished by the clock', async () => {
    const id = await accepted()
    await saveCorrection(me(), id, { changes: { cities: ['ottrevik', 'skarnholm', 'belmarrow'] } })
    await office.act(id, 'ask-correction', {}, me())
    await office.db
      .execute(sql`update application set answers = answers || '{"cities": ["belmarrow", "ottrevik", "skarnholm"]}' where id = ${id}`)
    expect(await problemOf(office.act(id, 'accept-correction', {}, judge()))).toMatchObject({ code: 'correction.overtaken' })
    const other = await accepted()
    await saveCorrection(me(), other, { changes: { mobile: '5550105555' } })
    await office.act(other, 'ask-correction', {}, me())
    await office.db
      .execute(sql`update correction set state = 'waiting', changes = '{"mobile": {"before": "5550105555", "after": "5550106666"}}' where application_id = ${other}`)
    office.pass(1)
    await applyReadyCorrections(office.product)
    expect((await office.dossier(other)).answers.mobile).toBe('5550106666')
    // What cannot take effect after all waits for the office, and keeps nothing else from being booked.
    const stuck = await accepted()
    await saveCorrection(me(), stuck, { changes: { mobile: '5550107001' } })
    await office.act(stuck, 'ask-correction', {}, me())
    await office.db
      .execute(sql`update correction set state = 'waiting', changes = '{"mobile": {"before": "1", "after": "5550107002"}}' where application_id = ${stuck}`)
    office.pass(1)
    await applyReadyCorrections(office.product)
    expect([(await readCorrection(me(), stuck)).state, (await office.dossier(stuck)).matters.map(m => m.kind)]).toEqual(['waiting',
      expect.arrayContaining(['correction-waits'])])
  })
})
