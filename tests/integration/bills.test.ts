import { randomUUID } from 'node:crypto'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { sql } from 'drizzle-orm'
import type { Principal } from '../../core/access/principal'
import { numberOf } from '../../core/bank/references'
import { isApplicationNumber } from '../../core/identity/check-digit'
import { putBankAccount } from '../../server/services/bank/accounts'
import { billPaper } from '../../server/services/bank/bill-paper'
import { billList, billPayer, billTogether, listBills, withdrawBill } from '../../server/services/bank/bills'
import { listLines, readLine } from '../../server/services/bank/lines'
import { matchOpenLines } from '../../server/services/bank/matching'
import { readDeposit } from '../../server/services/bank/slip'
import { takeStatements } from '../../server/services/bank/statements'
import { readOwn } from '../../server/services/candidates/own'
import { demoNotice } from '../../demo/notice'
import { lineQuerySchema } from '../../shared/bank'
import type { BillView } from '../../shared/bills'
import { camtFile, type MadeLine } from '../../statements/made'
import { expectSoundBooks } from '../support/books'
import { openOffice, type Office } from '../support/office'
import { printed } from '../support/printed'
import { problemOf } from '../support/problem'
import { testNow } from '../support/sample'

let office: Office
let parent: Principal
const account = randomUUID()
const number = 'DE89370400440532013000'
const due = 79_000
beforeAll(async () => {
  const { fees } = demoNotice(testNow) as { fees: object }
  office = await openOffice({
    fees: { ...fees, payers: [{ code: 'fund', title: 'Keepers Fund', when: { question: 'gender', in: ['man'] } }] },
  })
  parent = await office.candidate()
})
afterAll(() => office.close())

async function submitted(owner = parent, answers?: object): Promise<string> {
  const id = await office.complete(owner)
  if (answers) {
    await office.in('owner').execute(sql`update application set answers = answers || ${JSON.stringify(answers)}::jsonb where id = ${id}`)
  }
  await office.act(id, 'submit', { revision: (await office.dossier(id)).revision, declared: true })
  return id
}
const make = (applications: string[], who = parent, payer = 'A Parent') => billTogether(office.by(who), { applications, payer })
let [sequence, balance] = [0, 0]
/** Lines that come on the next statement, matched by themselves; gives how many were booked. */
async function arrive(...lines: (Partial<MadeLine> & { amount: number })[]): Promise<unknown> {
  sequence += 1
  const on = `2027-01-${String(sequence).padStart(2, '0')}`
  await takeStatements(
    office.as('accounts'),
    account,
    'day.xml',
    Buffer.from(camtFile({
      account: number,
      currency: 'IMK',
      identification: `S-${sequence}`,
      sequence,
      opening: balance,
      lines: lines.map(line => ({ on, text: '', name: null, ...line })),
    })),
  )
  balance += lines.reduce((sum, line) => sum + line.amount, 0)
  return (await matchOpenLines(office.as('accounts'), () => Promise.resolve(true))).booked
}
const standing = async (id: string) => {
  const { tracks, received } = await office.dossier(id)
  return `${tracks.fee} ${received}`
}
const listed = async (): Promise<BillView[]> => (await listBills(office.as('auditor'), 'HL27')).bills

describe('a bill for several', () => {
  it('is refused while no account takes deposits', async () => {
    expect(await problemOf(make([await submitted()]))).toMatchObject({ code: 'bank.no-slips' })
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

  it('has a number of its own, is made once, and settles everybody with one sum', async () => {
    const [one, other] = [await submitted(), await submitted()]
    const [bill, again] = await Promise.all([make([one, other]), make([other, one])])
    expect(again).toEqual(bill)
    expect(bill).toMatchObject({ people: 2, asked: 2 * due, due: 2 * due, payer: 'A Parent', withdrawn: null })
    expect([isApplicationNumber(bill.number), numberOf(bill.reference)]).toEqual([true, bill.number])
    const { number: after } = await office.dossier(await submitted())
    expect(after > bill.number).toBe(true)
    expect(await arrive({ amount: 2 * due, reference: bill.reference, name: 'Somebody Else' })).toBe(1)
    expect([await standing(one), await standing(other)]).toEqual([`settled ${due}`, `settled ${due}`])
    expect((await listed()).find(row => row.id === bill.id)).toMatchObject({ due: 0, asked: 2 * due })
    // The same sum once more is for a person to look at.
    expect(await arrive({ amount: 2 * due, reference: bill.reference })).toBe(0)
    await expectSoundBooks(office)
  })

  it("is found by a spoilt reference or none where the payer's name and the sum agree; another sum waits for a person", async () => {
    const [spoilt, named, less] = await Promise
      .all(['Skarnholm Grammar School', 'Ottrevik High School', 'Belmarrow Nautical College'].map(async payer =>
        make([await submitted(), await submitted()], parent, payer)
      ))
    if (!spoilt || !named || !less) throw new Error('no bills')
    const wrong = spoilt.reference.slice(0, -1) + String((Number(spoilt.reference.at(-1)) + 1) % 10)
    expect(await arrive({ amount: 2 * due, text: wrong, name: 'SKARNHOLM GRAMMAR SCHOOL' }, {
      amount: due,
      reference: less.reference,
      name: 'Belmarrow Nautical College',
    })).toBe(1)
    const [line] = (await listLines(office.as('accounts'), lineQuerySchema.parse({ search: less.reference }))).lines
    expect((await readLine(office.as('accounts'), line?.id ?? '')).matches).toMatchObject([{
      score: 0.5,
      reasons: ['bill', 'amount-less'],
      parts: [{ amount: due }],
    }])
    await withdrawBill(office.as('accounts'), less.id)
    expect(await arrive({ amount: 2 * due, text: 'pupils', name: 'Ottrevik High School' })).toBe(1)
    expect((await listed()).filter(row => [spoilt.id, named.id].includes(row.id)).map(row => row.due)).toEqual([0, 0])
    await expectSoundBooks(office)
  })

  it('asks for what is left of it: who has paid alone, or has left, is not asked for again', async () => {
    const [alone, gone, stays] = [await submitted(), await submitted(), await submitted()]
    const bill = await make([alone, gone, stays])
    await arrive({ amount: due, text: (await office.dossier(alone)).number })
    await office.act(gone, 'withdraw', { reason: 'They go to sea.' })
    expect((await listed()).find(row => row.id === bill.id)).toMatchObject({ asked: 3 * due, due })
    expect(printed((await billPaper(office.by(parent), bill.id)).pdf).text).toContain('has left the examination')
    expect(await arrive({ amount: due, reference: bill.reference })).toBe(1)
    expect(await standing(stays)).toBe(`settled ${due}`)
    await expectSoundBooks(office)
  })

  it("is nobody's but its maker's and the office's, and holds no longer once it is withdrawn", async () => {
    const stranger = await office.candidate('Somebody else')
    const [own, theirs] = [await submitted(), await submitted(stranger)]
    expect(await problemOf(make([own, theirs]))).toMatchObject({ code: 'access.relation' })
    const bill = await make([own])
    for (
      const attempt of [() => billPaper(office.by(stranger), bill.id), () => withdrawBill(office.by(stranger), bill.id),
        () => billPaper(office.by(parent), randomUUID())]
    ) expect(await problemOf(attempt())).toMatchObject({ code: 'bill.unknown' })
    expect(await withdrawBill(office.by(parent), bill.id)).toMatchObject({ due: 0, withdrawn: { by: 'Aldis Berrow' } })
    expect(await problemOf(withdrawBill(office.as('accounts'), bill.id))).toMatchObject({ code: 'bill.withdrawn' })
    expect((await make([own])).id).not.toBe(bill.id)
    // Money for a bill that was withdrawn is for a person to look at.
    expect(await arrive({ amount: due, reference: bill.reference, name: 'Nobody who owes' })).toBe(0)
    await arrive({ amount: due, text: (await office.dossier(own)).number })
    expect(await problemOf(make([own]))).toMatchObject({ code: 'bill.nothing-due' })
    await expectSoundBooks(office)
  })

  it('of a list of the roster is for those of it who owe', async () => {
    const family = await office.candidate('A family')
    const ids = [await submitted(family), await submitted(family)]
    const mine = (await Promise.all(ids.map(id => office.dossier(id)))).map(one => one.number).sort()
    const bill = await billList(office.as('accounts'), 'HL27', { filter: { is: ['form:submitted'] }, payer: 'A School' })
    expect(bill.people).toBeGreaterThanOrEqual(2)
    const { text } = printed((await billPaper(office.as('auditor'), bill.id)).pdf)
    for (const one of mine) expect(text).toContain(one)
    expect(await problemOf(billList(office.as('accounts'), 'HL27', { filter: { search: 'nobody of this name' }, payer: 'A School' })))
      .toMatchObject({ code: 'payment.together-none' })
  })
})

describe('whoever pays by the notice', () => {
  it('is named with the fee, waited for, and billed for everybody once', async () => {
    const [one, other] = [await submitted(parent, { gender: 'man' }), await submitted(parent, { gender: 'man' })]
    const { assessment, matters } = await office.dossier(one)
    expect(assessment?.payer).toEqual({ code: 'fund', title: 'Keepers Fund' })
    expect(matters).toContainEqual(expect.objectContaining({ kind: 'payer-due', owner: 'payer', parameters: { payer: 'Keepers Fund' } }))
    expect((await readOwn(office.by(parent))).applications.find(row => row.id === one)).toMatchObject({ payer: 'Keepers Fund', due })
    expect((await listBills(office.as('auditor'), 'HL27')).payers).toEqual([{
      code: 'fund',
      title: 'Keepers Fund',
      people: 2,
      unbilled: 2,
    }])
    const bill = await billPayer(office.as('accounts'), 'HL27', 'fund')
    expect(bill).toMatchObject({ payer: 'Keepers Fund', people: 2, due: 2 * due })
    expect((await readDeposit(office.by(parent), one))?.bill).toEqual({ number: bill.number, payer: 'Keepers Fund' })
    expect(await problemOf(billPayer(office.as('accounts'), 'HL27', 'fund'))).toMatchObject({ code: 'bill.payer-none' })
    expect(await problemOf(billPayer(office.as('accounts'), 'HL27', 'nobody'))).toMatchObject({ code: 'bill.payer' })
    expect(await arrive({ amount: 2 * due, reference: bill.reference })).toBe(1)
    expect([await standing(one), await standing(other)]).toEqual([`settled ${due}`, `settled ${due}`])
    expect((await listBills(office.as('auditor'), 'HL27')).payers).toEqual([{
      code: 'fund',
      title: 'Keepers Fund',
      people: 0,
      unbilled: 0,
    }])
    await expectSoundBooks(office)
  })
})

describe('bills, payments alone, people who leave and sums of any kind', () => {
  it('leave sound books in any order, and nobody pays twice without being owed it back', async () => {
    const step = fc.record({
      act: fc.constantFrom('bill', 'bill', 'pay', 'alone', 'leave', 'withdraw'),
      who: fc.nat(3),
      more: fc.constantFrom(0, 0, 0, -1000, 5000),
    })
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 3, maxLength: 8 }), async (steps) => {
        const people = [await submitted(), await submitted(), await submitted(), await submitted()]
        const made: BillView[] = []
        const own = (who: number) => people.slice(0, who + 1)
        for (const { act, who, more } of steps) {
          const id = people[who] ?? ''
          const bill = made[who % Math.max(1, made.length)]
          if (act === 'bill') {
            const made1 = await make(own(who)).catch(() => null)
            if (made1) made.push(made1)
          } else if (act === 'pay' && bill) {
            const now = (await listed()).find(row => row.id === bill.id)
            await arrive({ amount: Math.max(1, (now?.due ?? 0) + more), reference: bill.reference })
          } else if (act === 'alone') await arrive({ amount: due + more, text: (await office.dossier(id)).number })
          else if (act === 'leave') await office.act(id, 'withdraw', { reason: 'They go to sea.' }).catch(() => null)
          else if (act === 'withdraw' && bill) await withdrawBill(office.by(parent), bill.id).catch(() => null)
        }
        await expectSoundBooks(office)
        for (const id of people) {
          const { tracks, received, assessment } = await office.dossier(id)
          if (received > (assessment?.total ?? 0)) expect(tracks.fee).toBe('refund due')
          if (tracks.fee === 'settled') expect(received).toBe(assessment?.total)
        }
      }),
      { numRuns: 12, endOnFailure: true },
    )
  }, 120_000)
})
