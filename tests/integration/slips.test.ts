import { randomUUID } from 'node:crypto'
import { and, eq } from 'drizzle-orm'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { referenceOf } from '../../core/bank/references'
import type { Principal } from '../../core/access/principal'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { inspectorWith } from '../../pictures/inspect'
import { bankMatch, message } from '../../server/database/schema'
import { putBankAccount } from '../../server/services/bank/accounts'
import { closeDay, readClosing } from '../../server/services/bank/closing'
import { takeExplanationBack } from '../../server/services/bank/lines'
import { matchOpenLines } from '../../server/services/bank/matching'
import { handInSlip, pageOfSlip, slipsOf, waitingSlips } from '../../server/services/bank/paid-slips'
import { takeStatements } from '../../server/services/bank/statements'
import { confirmAct } from '../../server/services/acts/named'
import { lapseOverdue } from '../../server/services/clock/lapse'
import { issueReceipts, listReceipts } from '../../server/services/fees/receipts'
import { camtFile } from '../../statements/made'
import { balances, expectSoundBooks } from '../support/books'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'
import { testNow } from '../support/sample'

let office: Office
const papers: Buffer[] = []
const account = randomUUID()
const number = 'DE89370400440532013000'
const due = 79_000
beforeAll(async () => {
  office = await openOffice()
  for (let i = 0; i < 4; i += 1) papers.push(await drawPortrait(new Random(40 + i), 'none'))
  await putBankAccount(office.as('accounts'), account, {
    title: 'Fees',
    holder: 'The office',
    bank: 'A bank',
    number,
    bic: '',
    currency: 'IMK',
    takesDeposits: true,
  })
})
afterAll(() => office.close())

async function owing(owner?: Principal): Promise<string> {
  const id = await office.complete(owner)
  await office.act(id, 'submit', { revision: 1, declared: true })
  return id
}
let drawn = 0
const hand = (
  id: string,
  said: Partial<{ amount: number, branch: string, bankReference: string, paidOn: string, paper: number }> = {},
  who = office.as(),
) =>
  handInSlip(who, inspectorWith(), id, {
    amount: due,
    branch: 'Skarn, Harbour',
    bankReference: `D-${drawn += 1}`,
    paidOn: '2026-11-23',
    ...said,
    bytes: papers[said.paper ?? 0] ?? Buffer.alloc(0),
  })
const accounts = () => office.as('accounts')
const stands = async (id: string) => {
  const { tracks, received } = await office.dossier(id)
  return [tracks.fee, tracks.scrutiny, received]
}
let [sequence, balance] = [0, 0]
async function onStatement(amount: number, text: string, name = 'Somebody'): Promise<void> {
  sequence += 1
  await takeStatements(
    accounts(),
    account,
    's.xml',
    Buffer.from(camtFile({
      account: number,
      currency: 'IMK',
      identification: `S${sequence}`,
      sequence,
      opening: balance,
      lines: [{ on: new Date(Date.UTC(2027, 0, sequence)).toISOString().slice(0, 10), amount, text, name }],
    })),
  )
  balance += amount
  await matchOpenLines(accounts(), () => Promise.resolve(true))
}
const transit = async () => (await balances(office))['slips in transit'] ?? 0
const refer = async (id: string) => referenceOf((await office.dossier(id)).number)

describe('a paid slip', () => {
  it('keeps a fee waiting, is confirmed by accounts, and its money arrives once', async () => {
    const owner = await office.candidate()
    const me = office.by(owner)
    const id = await owing(owner)
    await hand(id, {}, me)
    expect(await stands(id)).toEqual(['confirming', 'not started', 0])
    expect((await office.dossier(id)).matters).toContainEqual(expect.objectContaining({ kind: 'slip-waits', owner: 'accounts' }))
    expect(await problemOf(hand(id, { paper: 1 }, office.by(owner)))).toMatchObject({ code: 'act.slip-waits' })
    const waits = await waitingSlips(accounts(), office.cycle)
    expect(waits.rows.find(row => row.applicationId === id)).toMatchObject({ amount: due, due, branch: 'Skarn, Harbour', alike: [] })
    expect((await pageOfSlip(accounts(), waits.rows[0]?.id ?? '', 1)).subarray(0, 2).toString('hex')).toBe('ffd8')
    expect(await problemOf(pageOfSlip(office.by(await office.candidate('Stranger')), waits.rows[0]?.id ?? '', 1))).toMatchObject({
      code: 'access.relation',
    })
    expect(await problemOf(pageOfSlip(office.as('scrutineer'), waits.rows[0]?.id ?? '', 1))).toMatchObject({ code: 'access.role' })
    expect(await problemOf(office.act(id, 'confirm-slip', {}, me))).toMatchObject({ code: 'access.relation' })
    await Promise.allSettled([office.act(id, 'confirm-slip', {}, accounts()), office.act(id, 'confirm-slip', {}, accounts())])
    expect([await stands(id), await transit()]).toEqual([['settled', 'waiting', due], due])
    await onStatement(due, await refer(id))
    expect([await stands(id), await transit(), (await slipsOf(me, id))[0]]).toMatchObject([['settled', 'waiting', due], 0, {
      state: 'confirmed',
      arrived: due,
    }])
    // One receipt, and one letter about the money.
    await issueReceipts(office.product)
    expect(await listReceipts(me, id)).toHaveLength(1)
    expect((await office.db.select().from(message).where(eq(message.applicationId, id))).filter(one =>
      ['confirm-slip', 'payment-settled'].includes(one.kind)
    )).toHaveLength(1)
    await expectSoundBooks(office)
  })

  it('says what cannot be: a day ahead, an amount of nothing, a paper that is none, the same one again', async () => {
    const id = await owing()
    expect(await problemOf(hand(id, { paidOn: '2027-03-01' }))).toMatchObject({ code: 'slip.day' })
    expect(await problemOf(hand(id, { paidOn: '2025-01-01' }))).toMatchObject({ code: 'slip.day' })
    expect(await problemOf(handInSlip(office.as(), inspectorWith(), id, {
      amount: due,
      branch: 'x y',
      bankReference: '',
      paidOn: '2026-11-23',
      bytes: Buffer.from('<html>'),
    }))).toMatchObject({ kind: 'not-an-image' })
    expect(await stands(id)).toEqual(['due', 'not started', 0])
    await hand(id)
    await office.act(id, 'refuse-slip', { reason: 'no stamp on it' }, accounts())
    expect([await stands(id), (await slipsOf(office.as(), id))[0]]).toMatchObject([['due', 'not started', 0], {
      state: 'refused',
      decided: { reason: 'no stamp on it' },
    }])
    expect(await problemOf(hand(id))).toMatchObject({ code: 'slip.same' })
    await hand(id, { paper: 1 })
    await office.act(id, 'take-back-slip', {})
    expect(await problemOf(office.act(id, 'take-back-slip', {}))).toMatchObject({ code: 'act.no-slip' })
    expect(await stands(id)).toEqual(['due', 'not started', 0])
  })

  it('that was used before is shown to accounts, by its picture and by its facts, and to no candidate', async () => {
    const [one, two, three] = [await owing(), await owing(), await owing()]
    await hand(one, { paper: 2, bankReference: 'D-777' })
    await hand(two, { paper: 2 })
    await hand(three, { paper: 3, bankReference: 'd-777', branch: 'Lohn' })
    const { rows } = await waitingSlips(accounts(), office.cycle)
    const alike = async (id: string) => rows.find(row => row.applicationId === id)?.alike.map(other => other.by).sort()
    expect(await alike(two)).toContain('picture')
    expect(await alike(three)).toEqual(['facts'])
    expect(Object.keys((await slipsOf(office.as(), one))[0] ?? {})).not.toContain('alike')
  })

  it('has nothing to be looked at any more when a statement shows its money first', async () => {
    const id = await owing()
    await hand(id)
    await onStatement(due, await refer(id))
    expect([await stands(id), (await slipsOf(office.as(), id))[0]?.state, await transit()]).toEqual([['settled', 'waiting', due], 'arrived',
      0])
    expect((await waitingSlips(accounts(), office.cycle)).rows.map(row => row.applicationId)).not.toContain(id)
    expect(await problemOf(office.act(id, 'confirm-slip', {}, accounts()))).toMatchObject({ code: 'act.no-slip' })
  })

  it('that was confirmed and whose money never comes is refused by two people', async () => {
    const id = await owing()
    await hand(id)
    await office.act(id, 'confirm-slip', {}, accounts())
    const begun = await office.act(id, 'refuse-slip', { reason: 'the bank knows nothing of it' }, accounts())
    if (begun.isDone) throw new Error('nobody else was asked')
    expect(await stands(id)).toEqual(['settled', 'waiting', due])
    expect(await problemOf(confirmAct(accounts(), begun.proposal))).toMatchObject({ code: 'access.second-self' })
    expect(await problemOf(confirmAct(office.second(), begun.proposal))).toMatchObject({ code: 'access.role' })
    const before = await transit()
    await confirmAct(office.second('accounts'), begun.proposal)
    expect([await stands(id), await transit(), (await slipsOf(office.as(), id))[0]?.state]).toEqual([['due', 'not started', 0],
      before - due, 'refused'])
    await expectSoundBooks(office)
  })

  it('whose money is explained otherwise after all is in transit again, and the day closes', async () => {
    const id = await owing()
    await hand(id, { amount: due + 1000 })
    await office.act(id, 'confirm-slip', {}, accounts())
    const before = await transit()
    await onStatement(due - 250, await refer(id))
    expect(await transit()).toBe(before - due + 250)
    const [match] = (await office.db.select().from(bankMatch).where(and(eq(bankMatch.explanation, 'dues')))).filter(one =>
      one.parts.some(part => part.application === id)
    )
    await takeExplanationBack(accounts(), match?.id ?? '', 'it was for somebody else')
    expect([await transit(), (await slipsOf(office.as(), id))[0]]).toMatchObject([before, { arrived: 0, state: 'confirmed' }])
    expect(await stands(id)).toEqual(['refund due', 'waiting', due + 1000])
    await matchOpenLines(accounts(), () => Promise.resolve(true))
    const { view } = await readClosing(accounts(), office.cycle, {})
    expect(view.accounts.map(one => [one.account, one.difference])).toEqual(view.accounts.map(one => [one.account, 0]))
    await closeDay(accounts(), office.cycle, { on: '2026-11-24', currency: 'IMK', note: '' })
    await expectSoundBooks(office)
  })

  it('keeps an application from ending by the clock while it waits', async () => {
    const id = await owing()
    await hand(id)
    office.now = new Date(Date.parse(office.notice.keyDates.lastPayment) + 60_000)
    await lapseOverdue(office.product)
    expect((await office.dossier(id)).headline).toBe('fee due')
    await office.act(id, 'refuse-slip', { reason: 'of another examination' }, accounts())
    await lapseOverdue(office.product)
    expect((await office.dossier(id)).headline).toBe('lapsed')
    office.now = testNow
  })
})

describe('any order of slips, answers and statements', () => {
  it('ends in books that balance, with nothing counted twice', async () => {
    const step = fc.constantFrom('hand', 'confirm', 'refuse', 'back', 'part', 'whole', 'undo', 'gateway', 'withdraw')
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 3, maxLength: 9 }), async (steps) => {
        const id = await owing()
        const reference = await refer(id)
        for (const one of steps) {
          const amount = one === 'part' ? 30_000 : due
          if (one === 'part' || one === 'whole') await onStatement(amount, reference)
          else {
            await ({
              hand: () => hand(id, { paper: drawn % 4 }),
              confirm: () => office.act(id, 'confirm-slip', {}, accounts()),
              refuse: async () => {
                const begun = await office.act(id, 'refuse-slip', { reason: 'as asked' }, accounts())
                if (!begun.isDone) await confirmAct(office.second('accounts'), begun.proposal)
              },
              back: () => office.act(id, 'take-back-slip', {}),
              gateway: () => office.settle(id),
              withdraw: () => office.act(id, 'withdraw', { reason: 'as asked' }),
              undo: async () => {
                const all = (await office.db.select().from(bankMatch)).filter(match =>
                  match.undoneAt === null && match.parts.some(part => part.application === id)
                )
                if (all[0]) await takeExplanationBack(accounts(), all[0].id, 'as asked')
              },
            })[one]().catch(() => undefined)
          }
        }
        const { view } = await readClosing(accounts(), office.cycle, {})
        expect(view.accounts.filter(account => account.difference !== 0)).toEqual([])
        await expectSoundBooks(office)
      }),
      { numRuns: 25 },
    )
  })
})
