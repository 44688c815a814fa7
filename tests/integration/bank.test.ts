import { randomUUID } from 'node:crypto'
import { and, eq, isNull, sql } from 'drizzle-orm'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { referenceOf } from '../../core/bank/references'
import { nameKey } from '../../core/identity/names'
import { application, bankLine, bankStatement, openMatter } from '../../server/database/schema'
import { listBankAccounts, putBankAccount, readCsvHead, setCsvMapping } from '../../server/services/bank/accounts'
import { readClosing } from '../../server/services/bank/closing'
import { findDues } from '../../server/services/bank/dues'
import { explainLine, listLines, readLine, takeExplanationBack } from '../../server/services/bank/lines'
import { matchingStanding, matchOpenLines } from '../../server/services/bank/matching'
import { listStatements, takeStatements } from '../../server/services/bank/statements'
import { performAct } from '../../server/services/acts/named'
import { lineQuerySchema, type LineView } from '../../shared/bank'
import { camtFile, csvFile, mt940File, type MadeLine, type MadeStatement } from '../../statements/made'
import { balances, expectSoundBooks } from '../support/books'
import { openOffice, type Office } from '../support/office'

let office: Office
const account = randomUUID()
const number = 'DE89370400440532013000'
const due = 79_000
beforeAll(async () => {
  office = await openOffice()
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

let [sequence, balance] = [0, 500_000]
/** The next day's statement of the account. */
function day(...lines: (Partial<MadeLine> & { amount: number })[]): MadeStatement {
  sequence += 1
  const on = `2027-01-${String(sequence).padStart(2, '0')}`
  const made = {
    account: number,
    currency: 'IMK',
    identification: `S-${sequence}`,
    sequence,
    opening: balance,
    lines: lines.map(line => ({ on, text: '', name: null, ...line })),
  }
  balance = lines.reduce((sum, line) => sum + line.amount, balance)
  return made
}
const take = (text: string | Buffer, name = 'statement.xml', to = account) =>
  takeStatements(office.as('accounts'), to, name, Buffer.from(text))
const match = () => matchOpenLines(office.as('accounts'), () => Promise.resolve(true))
const open = async (more: Partial<ReturnType<typeof lineQuerySchema.parse>> = {}): Promise<LineView[]> =>
  (await listLines(office.as('accounts'), lineQuerySchema.parse(more))).lines
const one = async (id: string) => {
  const { number: of, received, tracks, headline, name } = await office.dossier(id)
  return { number: of, reference: referenceOf(of), name, received, fee: tracks.fee, headline }
}
/** A submitted application of somebody of a name of their own, whose fee is due. */
async function owing(name = 'Tavirel Osk-Anundé'): Promise<string> {
  const id = await office.complete()
  const { revision } = await office.dossier(id)
  await office.act(id, 'submit', { revision, declared: true })
  await office.in('owner').update(application).set({ displayName: name, nameKey: nameKey(name) }).where(eq(application.id, id))
  return id
}

/** Besides: the ledger's bank is what statements show, and what no line explains stands under unmatched. */
async function booksHold(): Promise<void> {
  await expectSoundBooks(office)
  const sums = await balances(office)
  const lines = await office.db.select().from(bankLine)
  expect(sums.bank ?? 0).toBe(lines.reduce((sum, line) => sum + line.amount, 0))
  const waiting = lines.filter(line => line.state === 'open')
  expect(sums['unmatched receipts'] ?? 0).toBe(-waiting.filter(line => line.amount > 0).reduce((sum, line) => sum + line.amount, 0) + 0)
  expect(sums['unmatched payments'] ?? 0).toBe(-waiting.filter(line => line.amount < 0).reduce((sum, line) => sum + line.amount, 0) + 0)
}

describe('a statement', () => {
  it("is booked when it is read, once, and refused whole where it does not add up or is another account's", async () => {
    const made = day({ amount: 1000, text: 'nobody knows' }, { amount: -250, text: 'account keeping' })
    const file = camtFile(made)
    const [first, second] = await Promise.all([take(file), take(file)])
    expect([first.taken.length + second.taken.length, first.repeated + second.repeated]).toEqual([1, 1])
    await booksHold()
    // A bank may send the same again under another name.
    expect((await take(file.replaceAll('S-1', 'S-1-again'))).repeated).toBe(1)
    const faults = [file.replace('10.00', '11.00'), file.replaceAll(number, 'GB29NWBK60161331926819'),
      file.replaceAll('"IMK"', '"EUR"').replace('<Ccy>IMK', '<Ccy>EUR'), camtFile({ ...made, lines: made.lines.slice(0, 1) })]
    const codes = await Promise
      .all(faults.map(fault => take(fault).then(() => 'taken', (error: { problem: { code: string } }) => error.problem.code)))
    expect(codes).toEqual(['statement.balance', 'statement.account', 'statement.currency', 'statement.otherwise'])
    expect((await office.db.select().from(bankStatement)).length).toBe(1)
    await booksHold()
  })

  it('that leaves some out says so, and the books say how much until it comes', async () => {
    const lost = day({ amount: 4000, text: 'lost on the way' })
    await take(mt940File(day({ amount: 700, text: 'after a gap' })), 'later.sta')
    expect((await listStatements(office.as('auditor'), account))[0]?.gaps).toMatchObject([{ code: 'sequence', wanted: 2, found: 3 }, {
      code: 'opening',
      wanted: 500_750,
      found: 504_750,
    }])
    const bank = async () =>
      (await readClosing(office.as('auditor'), office.cycle, {})).view.accounts.find(one => one.account === 'bank')?.difference
    expect(await bank()).toBe(-4000)
    await take(camtFile(lost))
    expect(await bank()).toBe(0)
    expect((await listStatements(office.as('auditor'), account)).flatMap(one => one.gaps)).toEqual([])
  })

  it('as CSV needs its columns said once, takes what overlaps once, and no days that another format covers', async () => {
    const other = randomUUID()
    await putBankAccount(office.as('accounts'), other, {
      title: 'Second',
      holder: 'The office',
      bank: 'A bank',
      number: '4711-0815/33',
      bic: '',
      currency: 'IMK',
      takesDeposits: false,
    })
    const lines: MadeLine[] = [['2027-02-01', 500], ['2027-02-01', 500], ['2027-02-02', 900], ['2027-02-03', 100]].map(([on, amount]) => ({
      on: String(on),
      amount: Number(amount),
      text: 'exam',
      name: 'A',
    }))
    const csv = (from: number, to: number) =>
      csvFile({
        account: 'x',
        currency: 'IMK',
        identification: '',
        sequence: 0,
        opening: lines.slice(0, from).reduce((sum, line) => sum + line.amount, 0),
        lines: lines.slice(from, to),
      })
    await expect(take(csv(0, 3), 'a.csv', other)).rejects.toMatchObject({ problem: { code: 'statement.no-mapping' } })
    const { headings } = await readCsvHead(office.as('accounts'), Buffer.from(csv(0, 3)))
    expect(headings).toContain('Booked')
    await setCsvMapping(office.as('accounts'), other, {
      bookedOn: 'Booked',
      order: 'dmy',
      amount: 'Credit',
      mark: ',',
      debit: 'Debit',
      valueOn: null,
      reference: 'Reference',
      text: ['Text'],
      name: 'Payer',
      account: null,
      bankReference: null,
      balance: 'Balance',
      currency: null,
    })
    expect((await take(csv(0, 3), 'a.csv', other)).taken[0]).toMatchObject({ lines: 3, known: 0 })
    expect((await take(csv(0, 4), 'b.csv', other)).taken[0]).toMatchObject({ lines: 4, known: 3 })
    expect((await take(csv(0, 4), 'b.csv', other)).repeated).toBe(1)
    // The same days written otherwise would count twice.
    await expect(take(csv(0, 4).replaceAll(';exam;', ';EXAM FEE;'), 'd.csv', other)).rejects.toMatchObject({
      problem: { code: 'statement.rewritten' },
    })
    const doubled = camtFile({ account: '471108/1533', currency: 'IMK', identification: 'Z', sequence: 1, opening: 0, lines }).replace(
      '471108/1533',
      '4711-0815/33',
    )
    await expect(take(doubled, 'c.xml', other)).rejects.toMatchObject({ problem: { code: 'statement.covered' } })
    expect((await listBankAccounts(office.as('auditor'))).find(view => view.id === other)).toMatchObject({
      statements: 2,
      openLines: 4,
      last: { closing: 2000 },
    })
    await booksHold()
  })
})

describe('matching', () => {
  it('books what is sure by itself, settles the fee and lets the case on; the rest waits with its best guess', async () => {
    const [exact, spoilt, named, uncle, part] = [await owing(), await owing('Sera Halwen'), await owing('Orla Benn-Tavish'),
      await owing('Ketil Brae'), await owing('Mira Sorn')]
    const of = { exact: await one(exact), spoilt: await one(spoilt), uncle: await one(uncle), part: await one(part) }
    const wrong = (reference: string) => reference.slice(0, -1) + String((Number(reference.at(-1)) + 1) % 10)
    await take(camtFile(day(
      { amount: due, reference: of.exact.reference, name: 'Somebody Else' },
      { amount: due, text: `fee ${wrong(of.spoilt.reference)}`, name: 'HALWEN SERA' },
      { amount: due, text: 'for the examination', name: 'Orla Benn Tavish' },
      { amount: due, text: wrong(of.uncle.reference), name: 'An Uncle' },
      { amount: 30_000, text: of.part.number.toLowerCase() },
    )))
    expect(await match()).toMatchObject({ booked: 4 })
    for (const id of [exact, spoilt, named]) expect(await one(id)).toMatchObject({ received: due, fee: 'settled', headline: 'in scrutiny' })
    expect(await one(part)).toMatchObject({ received: 30_000, fee: 'due' })
    const kinds = async (id: string) =>
      (await office.db.select({ kind: openMatter.kind }).from(openMatter)
        .where(and(eq(openMatter.applicationId, id), isNull(openMatter.clearedAt)))).map(row => row.kind)
    expect([await kinds(exact), await kinds(part)]).toEqual([['scrutiny'], ['fee-due']])
    const [waiting] = await open({ search: 'An Uncle' })
    expect(waiting?.best).toBeLessThan(90)
    expect((await readLine(office.as('accounts'), waiting?.id ?? '')).matches).toMatchObject([{
      step: 'repaired',
      parts: [{ applicationId: uncle }],
    }])
    expect(await match()).toMatchObject({ booked: 0 })
    expect((await matchingStanding(office.as('auditor'))).steps).toMatchObject([{ step: 'reference', booked: 2 }, {
      step: 'repaired',
      booked: 1,
    }, { step: 'several', booked: 0 }, { step: 'name', booked: 1 }])
    await booksHold()
  })

  it('of one payment for several, of one that comes twice, and of one for somebody who has left', async () => {
    const [first, second, left] = [await owing('Ana Sorn'), await owing('Bela Sorn'), await owing('Cato Sorn')]
    const names = [await one(first), await one(second), await one(left)]
    await performAct(office.as(), 'withdraw', left, { reason: 'does not want to sit' })
    await take(camtFile(day({ amount: 2 * due, text: `${names[0]?.number} ${names[1]?.number}` }, {
      amount: due,
      reference: names[0]?.reference,
      name: 'Ana Sorn',
    }, { amount: due, reference: names[2]?.reference })))
    await match()
    expect(await one(first)).toMatchObject({ received: 2 * due, fee: 'refund due' })
    expect(await one(second)).toMatchObject({ received: due, fee: 'settled' })
    // Who has left gets nothing booked without a person.
    expect(await one(left)).toMatchObject({ received: 0 })
    const line = (await open({ search: names[2]?.reference }))[0]
    await explainLine(office.as('accounts'), line?.id ?? '', { as: 'dues', parts: [{ application: left, amount: due }] })
    expect(await one(left)).toMatchObject({ received: due })
    await booksHold()
  })

  it('by hand: parts must make the line, the first of two is taken, and what was wrong is taken back and told', async () => {
    const [right, wrong] = [await owing('Dara Quist'), await owing('Edda Quist')]
    await take(camtFile(day({ amount: due, text: 'cash at the counter' }, { amount: -300, text: 'charge for counters' })))
    await match()
    const [line] = await open({ search: 'cash at' })
    const accounts = office.as('accounts')
    const explained = (parts: { application: string, amount: number }[]) => explainLine(accounts, line?.id ?? '', { as: 'dues', parts })
    await expect(explained([{ application: right, amount: due - 1 }])).rejects.toMatchObject({ problem: { code: 'line.parts' } })
    await expect(explained([{ application: randomUUID(), amount: due }])).rejects.toMatchObject({ problem: { code: 'line.no-due' } })
    const both = await Promise.allSettled([explained([{ application: wrong, amount: due }]),
      explained([{ application: wrong, amount: due }])])
    expect(both.map(result => result.status).sort()).toEqual(['fulfilled', 'rejected'])
    expect(await one(wrong)).toMatchObject({ fee: 'settled' })
    const { explained: because } = await readLine(accounts, line?.id ?? '')
    await takeExplanationBack(accounts, because?.matchId ?? '', 'It was her sister who paid')
    await expect(takeExplanationBack(accounts, because?.matchId ?? '', 'It was her sister who paid')).rejects.toMatchObject({
      problem: { code: 'line.not-matched' },
    })
    expect(await one(wrong)).toMatchObject({ received: 0, fee: 'due', headline: 'fee due' })
    await explained([{ application: right, amount: due }])
    expect(await one(right)).toMatchObject({ received: due, fee: 'settled' })
    const [charge] = await open({ side: 'out', search: 'counters' })
    await expect(explainLine(accounts, line?.id ?? '', { as: 'bank charge' })).rejects.toMatchObject({ problem: { code: 'line.matched' } })
    await explainLine(accounts, charge?.id ?? '', { as: 'bank charge' })
    expect((await balances(office))['bank charges']).toBe(300)
    expect((await findDues(accounts, 'Quist')).map(found => [found.name, found.due]).sort()).toEqual([['Dara Quist', 0], ['Edda Quist',
      due]])
    const found = async (search: string) => (await findDues(accounts, search)).map(one => one.name)
    // Words by their beginnings and in any order; by number whoever owes something first; signs of the search's own language are none.
    expect([await found('qui dar'), await found('uist'), await found('QUIST, edda')]).toEqual([['Dara Quist'], [], ['Edda Quist']])
    expect((await findDues(accounts, 'HL27-'))[0]?.due).toBeGreaterThan(0)
    for (const odd of ["'", 'a & | b', ':*', '(', 'x\\', '%%', '__', '🂡🂡']) expect(await found(odd)).toEqual([])
    await booksHold()
  })

  it('in any order, with statements read twice and explanations taken back, ends in books that balance', async () => {
    const ids = await Promise.all(Array.from({ length: 6 }, (_, i) => owing(`Person ${'ABCDEF'.charAt(i)} Ordering`)))
    const people = await Promise.all(ids.map(one))
    const step = fc.oneof(
      fc.record({
        act: fc.constant('pay' as const),
        who: fc.nat(5),
        amount: fc.constantFrom(due, due, 40_000, 100_000),
        spoilt: fc.boolean(),
      }),
      fc.record({ act: fc.constant('back' as const), nth: fc.nat(20) }),
      fc.record({ act: fc.constant('again' as const) }),
    )
    const files: string[] = []
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 3, maxLength: 8 }), async (steps) => {
        for (const what of steps) {
          if (what.act === 'pay') {
            const person = people[what.who]
            files.push(camtFile(day({
              amount: what.amount,
              text: what.spoilt ? `no number, ${person?.name}` : person?.reference ?? '',
              name: person?.name ?? null,
            })))
            await take(files.at(-1) ?? '')
          } else if (what.act === 'again') { for (const file of files.slice(-2)) expect((await take(file)).taken).toEqual([]) }
          else {
            const explained = await open({ state: 'explained' })
            const chosen = explained[what.nth % Math.max(1, explained.length)]
            const detail = chosen && await readLine(office.as('accounts'), chosen.id)
            if (detail?.explained?.parts.some(part => ids.includes(part.applicationId))) {
              await takeExplanationBack(office.as('accounts'), detail.explained.matchId, 'taken back in a test')
            }
          }
          await Promise.all([match(), match()])
        }
        await booksHold()
        // Each is credited exactly what lines in force say.
        for (const id of ids) {
          const { rows } = await office.db.execute<
            { sum: string }
          >(sql`select coalesce(sum((part ->> 'amount')::bigint), 0) as sum from bank_match m, jsonb_array_elements(m.parts) as part where m.undone_at is null and part ->> 'application' = ${id}`)
          expect((await one(id)).received).toBe(Number(rows[0]?.sum))
        }
      }),
      { numRuns: 6 },
    )
  })
})
