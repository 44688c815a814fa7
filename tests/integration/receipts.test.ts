import { randomUUID } from 'node:crypto'
import { asc } from 'drizzle-orm'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readReceiptNumber, receiptNumber, receiptsDue } from '../../core/fees/receipt'
import { referenceOf } from '../../core/bank/references'
import { receipt } from '../../server/database/schema'
import { putBankAccount } from '../../server/services/bank/accounts'
import { listLines, readLine, takeExplanationBack } from '../../server/services/bank/lines'
import { matchOpenLines } from '../../server/services/bank/matching'
import { takeStatements } from '../../server/services/bank/statements'
import { checkReceipt, issueReceipts, listReceipts, receiptPdf } from '../../server/services/fees/receipts'
import { lineQuerySchema } from '../../shared/bank'
import { camtFile } from '../../statements/made'
import { openOffice, type Office } from '../support/office'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())
const issue = () => issueReceipts(office.product)

describe('numbers of receipts', () => {
  it('lead back to year and serial, and no wrong digit leads anywhere', () => {
    fc.assert(fc.property(
      fc.integer({ min: 2000, max: 2099 }),
      fc.integer({ min: 1, max: 9_999_999 }),
      fc.nat(11),
      fc.integer({ min: 1, max: 9 }),
      (year, serial, place, off) => {
        const number = receiptNumber(year, serial)
        expect(readReceiptNumber(` ${number} `)).toEqual({ year, serial })
        const digits = number.replaceAll('-', '')
        expect(readReceiptNumber(digits.slice(0, place) + String((Number(digits[place]) + off) % 10) + digits.slice(place + 1))).toBeNull()
      },
    ))
  })

  it('what is in force adds up to what was paid, whatever was paid and taken back before', () => {
    fc.assert(fc.property(fc.array(fc.integer({ min: 1, max: 900 }), { maxLength: 5 }), fc.nat(2000), (inForce, paid) => {
      const change = receiptsDue(inForce, paid, true)
      expect(inForce.slice(0, inForce.length - change.void).reduce((sum, amount) => sum + amount, 0) + change.issue).toBe(paid)
      expect(receiptsDue(inForce, paid, false).issue).toBe(0)
    }))
  })
})

describe('a receipt', () => {
  it('is issued once for each settled fee, without a gap, by many processes at once, and proves itself to whoever has the paper', async () => {
    const ids = await Promise.all(Array.from({ length: 5 }, () => office.at('scrutiny')))
    await Promise.all([issue(), issue(), issue()])
    const rows = await office.db.select().from(receipt).orderBy(asc(receipt.serial))
    expect(rows.map(row => row.serial)).toEqual([1, 2, 3, 4, 5])
    expect(new Set(rows.map(row => row.applicationId))).toEqual(new Set(ids))
    expect(await issue()).toBe(0)
    const [id = ''] = ids
    const [one] = await listReceipts(office.as('accounts'), id)
    const code = rows.find(row => row.applicationId === id)?.code ?? ''
    expect(one).toMatchObject({ amount: 79_000, currency: 'IMK', voidAt: null })
    expect(await checkReceipt(office.nobody, { number: one?.number ?? '', code: ` ${code.toLowerCase()}` }, '10.0.0.1')).toMatchObject({
      amount: 79_000,
      application: (await office.dossier(id)).number,
    })
    await expect(checkReceipt(office.nobody, { number: one?.number ?? '', code: 'AAAAAAAAAA' }, '10.0.0.1')).rejects.toMatchObject({
      problem: { code: 'receipt.unknown' },
    })
    await expect(checkReceipt(office.nobody, { number: '2027-0000001', code }, '10.0.0.1')).rejects.toMatchObject({
      problem: { code: 'receipt.number' },
    })
    const guesses = await Promise.allSettled(Array.from(
      { length: 40 },
      () => checkReceipt(office.nobody, { number: one?.number ?? '', code: 'BBBBBBBBBB' }, '10.0.0.9'),
    ))
    expect(guesses.filter(guess =>
      guess.status === 'rejected' && (guess.reason as { problem: { code: string } }).problem.code === 'session.too-many'
    ).length).toBe(20)
    const [first, again] = [await receiptPdf(office.as('accounts'), id, one?.id ?? ''),
      await receiptPdf(office.as('accounts'), id, one?.id ?? '')]
    expect(first.pdf.equals(again.pdf)).toBe(true)
    await expect(receiptPdf(office.as('accounts'), ids[1] ?? '', one?.id ?? '')).rejects.toMatchObject({
      problem: { code: 'receipt.unknown' },
    })
  })

  it('waits until nothing is due, holds no longer when its money is taken back, and its number is given to no other', async () => {
    const accounts = office.as('accounts')
    const account = randomUUID()
    await putBankAccount(accounts, account, {
      title: 'Fees',
      holder: 'The office',
      bank: 'A bank',
      number: 'DE89370400440532013000',
      bic: '',
      currency: 'IMK',
      takesDeposits: true,
    })
    const id = await office.complete()
    await office.act(id, 'submit', { revision: 1, declared: true })
    const reference = referenceOf((await office.dossier(id)).number)
    let sequence = 0
    const pay = async (amount: number) => {
      sequence += 1
      await takeStatements(
        accounts,
        account,
        's.xml',
        Buffer.from(camtFile({
          account: 'DE89370400440532013000',
          currency: 'IMK',
          identification: `R${sequence}`,
          sequence,
          opening: 0,
          lines: [{ on: `2027-03-0${sequence}`, amount, reference, text: '', name: null }],
        })),
      )
      await matchOpenLines(accounts, () => Promise.resolve(true))
      await issue()
      return (await listReceipts(accounts, id)).map(one => [one.amount, one.voidAt !== null])
    }
    expect(await pay(30_000)).toEqual([])
    expect(await pay(49_000)).toEqual([[79_000, false]])
    const [line] = (await listLines(accounts, lineQuerySchema.parse({ state: 'explained' }))).lines
    await takeExplanationBack(accounts, (await readLine(accounts, line?.id ?? '')).explained?.matchId ?? '', 'somebody else paid')
    await issue()
    expect((await listReceipts(accounts, id)).map(one => one.voidAt !== null)).toEqual([true])
    const serials = (await office.db.select().from(receipt).orderBy(asc(receipt.serial))).map(row => row.serial)
    expect(serials).toEqual(serials.map((_, i) => i + 1))
    // What was taken back waits on its line, and is found again: a new receipt, under a number of its own.
    await matchOpenLines(accounts, () => Promise.resolve(true))
    await issue()
    expect((await listReceipts(accounts, id)).map(one => [one.amount, one.voidAt !== null])).toEqual([[79_000, true], [79_000, false]])
  })
})
