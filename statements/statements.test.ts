import fc from 'fast-check'
import { SaxesParser } from 'saxes'
import { describe, expect, it } from 'vitest'
import { balanceFault } from '../core/bank/statement'
import type { CsvMapping } from '../shared/bank'
import { camtFile, csvFile, mt940File, type MadeLine } from './made'
import { paymentOrderFile } from './pain001'
import { formatOf, readStatements } from './read'
import { readSettlements, settlementFile } from './settlement'

const lines: MadeLine[] = [
  {
    on: '2027-02-01',
    amount: 64_000,
    reference: 'RF79HL270048213',
    text: 'fee',
    name: 'Tavirel Osk-Anundé',
    account: 'DE89370400440532013000',
  },
  { on: '2027-02-01', amount: -250, text: 'account keeping', name: null },
  { on: '2027-02-02', amount: 80_250, text: 'HL27-0048214-7 for my daughter', name: 'Sera Halwen' },
]
const made = { account: 'GB29NWBK60161331926819', currency: 'IMK', identification: 'S-4', sequence: 4, opening: 1_000_000, lines }
const whose = { mapping: null, account: made.account, currency: 'IMK' }
const mapping: CsvMapping = {
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
}
const read = (text: string | Buffer, given: { mapping: CsvMapping | null, account: string, currency: string } = whose) =>
  readStatements(Buffer.from(text), given)
const code = (reading: Promise<unknown>) =>
  reading.then(() => 'read', (error: { problem?: { code: string } }) => error.problem?.code ?? String(error))

describe('one day in three formats', () => {
  it.each([['camt.053', camtFile(made), null], ['MT940', mt940File(made), null], ['CSV', csvFile(made), mapping]] as const)(
    '%s tells the same lines and balances',
    async (format, text, columns) => {
      expect(await formatOf(Buffer.from(text))).toBe(format)
      const [statement, ...more] = await read(text, { ...whose, mapping: columns })
      expect(more).toEqual([])
      expect(statement).toMatchObject({ format, currency: 'IMK', opening: { amount: 1_000_000 }, closing: { amount: 1_144_000 } })
      expect(statement?.lines.map(line => [line.bookedOn, line.amount])).toEqual([['2027-02-01', 64_000], ['2027-02-01', -250], [
        '2027-02-02',
        80_250,
      ]])
      expect(statement?.lines[0]).toMatchObject({
        reference: 'RF79HL270048213',
        name: format === 'MT940' ? 'Tavirel Osk-Anunde' : 'Tavirel Osk-Anundé',
      })
      expect(statement?.lines[2]?.text).toContain('HL27-0048214-7 for my daughter')
      if (statement) expect(balanceFault(statement)).toBeNull()
    },
  )

  it('is read from other character sets, orders of days and decimal marks', async () => {
    const turned = csvFile({ ...made, newestFirst: true })
    for (const bytes of [Buffer.from(turned), Buffer.from(`\uFEFF${turned}`, 'utf16le'), Buffer.from(turned, 'latin1')]) {
      const [statement] = await read(bytes, { ...whose, mapping })
      expect(statement?.lines[0]).toMatchObject({ amount: 64_000, name: 'Tavirel Osk-Anundé' })
      expect(statement?.opening?.amount).toBe(1_000_000)
    }
  })

  it('splits a batch into its payments where it says what each is, and counts only what is booked', async () => {
    const text = camtFile(made)
    const detail = (amount: string, name: string) =>
      `<TxDtls><AmtDtls><TxAmt><Amt Ccy="IMK">${amount}</Amt></TxAmt></AmtDtls><RltdPties><Dbtr><Pty><Nm>${name}</Nm></Pty></Dbtr></RltdPties></TxDtls>`
    const batch =
      `<Ntry><Amt Ccy="IMK">10.00</Amt><CdtDbtInd>CRDT</CdtDbtInd><Sts><Cd>BOOK</Cd></Sts><BookgDt><Dt>2027-02-02</Dt></BookgDt><NtryDtls>${
        detail('4.00', 'A &amp; B')
      }${detail('6.00', 'C')}</NtryDtls></Ntry>`
    const pending =
      '<Ntry><Amt Ccy="IMK">99.00</Amt><CdtDbtInd>CRDT</CdtDbtInd><Sts>PDNG</Sts><BookgDt><Dt>2027-02-02</Dt></BookgDt></Ntry>'
    const [statement] = await read(text.replace('</Stmt>', `${batch}${pending}</Stmt>`))
    expect(statement?.lines.slice(3)).toMatchObject([{ amount: 400, name: 'A & B' }, { amount: 600, name: 'C' }])
    if (statement) expect(balanceFault(statement)).toMatchObject({ movements: 145_000 })
  })

  it('keeps pages of one MT940 together, takes the year from the day of value, and knows a credit taken back', async () => {
    const page = (balance: string, line: string, end: string) =>
      `:20:S\r\n:25:50010517/0648489890IMK\r\n:28C:7/1\r\n${balance}\r\n${line}\r\n:86:FEE\r\n${end}\r\n-\r\n`
    const text = page(':60F:C261231IMK100,00', ':61:2612310102C50,00NTRFNONREF//B1', ':62M:C261231IMK150,00')
      + page(':60M:C261231IMK150,00', ':61:270102RC20,NTRFNONREF', ':62F:C270102IMK130,00\r\n:64:C270102IMK130,00')
    const [statement, ...more] = await read(text)
    expect(more).toEqual([])
    expect(statement).toMatchObject({ account: '0648489890', sequence: 7, opening: { amount: 10_000 }, closing: { amount: 13_000 } })
    expect(statement?.lines).toMatchObject([{
      bookedOn: '2027-01-02',
      valueOn: '2026-12-31',
      amount: 5000,
      bankReference: 'B1',
      isReversal: false,
    }, { amount: -2000, isReversal: true }])
  })
})

describe('a file that is no good', () => {
  const half = (text: string) => text.slice(0, Math.floor(text.length / 2))
  it.each([
    ['a camt.053 cut in half', half(camtFile(made)), null, 'statement.broken'],
    ['an MT940 cut in half', half(mt940File(made)), null, 'statement.broken'],
    ['entities from outside',
      `<?xml version="1.0"?><!DOCTYPE Document [<!ENTITY x SYSTEM "file:///etc/passwd">]>${camtFile(made).replace('fee', '&x;')}`, null,
      'statement.entities'],
    ['an entity that nobody declared', camtFile(made).replace('fee', '&x;'), null, 'statement.broken'],
    ['another message', '<Document><BkToCstmrDbtCdtNtfctn><Ntfctn/></BkToCstmrDbtCdtNtfctn></Document>', null, 'statement.unknown'],
    ['a line in another currency', camtFile(made).replace('<Amt Ccy="IMK">802.50', '<Amt Ccy="EUR">802.50'), null, 'statement.mixed'],
    ['another decimal mark', camtFile(made).replace('>802.50<', '>802,50<'), null, 'statement.amount'],
    ['a day that is none', camtFile(made).replaceAll('2027-02-02', '2027-02-30'), null, 'statement.date'],
    ['a CSV whose columns nobody has said', csvFile(made), null, 'statement.no-mapping'],
    ['a CSV with other headings', csvFile(made), { ...mapping, amount: 'Paid in' }, 'statement.headings'],
    ['a CSV with another decimal mark', csvFile(made), { ...mapping, mark: '.' as const }, 'statement.amount'],
    ['a CSV with a line left out', csvFile(made).split('\n').filter(line => !line.includes('account keeping')).join('\n'), mapping,
      'statement.running'],
    ['a picture', Buffer.from([0x89, 0x50, 0x4E, 0x47, 0, 1, 2, 3, 4, 5, 6, 7]), null, 'table.unknown'],
    ['nothing', '', null, 'table.empty'],
  ] as const)('%s is refused', async (_what, text, columns, wanted) => {
    expect(await code(read(text as string, { ...whose, mapping: columns }))).toBe(wanted)
  })
})

describe('any statement', () => {
  const days = fc.integer({ min: 1, max: 28 }).map(day => `2027-02-${String(day).padStart(2, '0')}`)
  // Signs that all three formats can carry; what MT940 cannot is told in its own test.
  const words = fc.array(fc.constantFrom('fee', 'HL27-0048214-7', 'for my daughter', 'RF79HL270048213', 'A/B', 'x'), {
    minLength: 1,
    maxLength: 6,
  }).map(parts => parts.join(' '))
  const line = fc.record({
    on: days,
    amount: fc.integer({ min: -900_000, max: 900_000 }).filter(amount => amount !== 0),
    text: words,
    name: fc.constantFrom('Sera Halwen', 'Orla Benn', null),
  })
  const statement = fc.record({
    lines: fc.array(line, { minLength: 1, maxLength: 12 }).map(list => list.sort((a, b) => a.on.localeCompare(b.on))),
    opening: fc.integer({ min: -1_000_000, max: 5_000_000 }),
  })

  it('is read from each format as it was written', async () => {
    await fc.assert(
      fc.asyncProperty(statement, async (given) => {
        const whole = { ...made, ...given }
        for (const [text, columns] of [[camtFile(whole), null], [mt940File(whole), null], [csvFile(whole), mapping]] as const) {
          const [found] = await read(text, { ...whose, mapping: columns })
          expect(found?.lines.map(one => [one.bookedOn, one.amount, one.name]))
            .toEqual(given.lines.map(one => [one.on, one.amount, one.name]))
          expect(found?.lines.map(one => one.text.replaceAll(' ', ''))).toEqual(given.lines.map(one => one.text.replaceAll(' ', '')))
          expect(found?.opening?.amount).toBe(given.opening)
          if (found) expect(balanceFault(found)).toBeNull()
        }
      }),
      { numRuns: 60 },
    )
  })

  it('cut anywhere is refused when it is read, or by its balances, or nothing of it was lost', async () => {
    const whole = [camtFile(made), mt940File(made)]
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...whole), fc.double({ min: 0.02, max: 0.98, noNaN: true }), async (text, share) => {
        const cut = text.slice(0, Math.floor(text.length * share))
        const found = await read(cut).catch((error: { problem?: { code: string } }) =>
          error.problem?.code ?? Promise.reject(error as unknown as Error)
        )
        if (typeof found !== 'string') {
          for (const one of found) {
            expect(one.closing !== null && (balanceFault(one) !== null || one.lines.length === made.lines.length)).toBe(true)
          }
        }
      }),
      { numRuns: 120 },
    )
  })
})

describe('a payout', () => {
  const orders = fc.array(
    fc.record({ order: fc.uuid(), gross: fc.integer({ min: 0, max: 10 ** 9 }), charge: fc.integer({ min: 0, max: 10 ** 6 }) }),
    { minLength: 1, maxLength: 8 },
  )
  it('is read as it was written, whatever its amounts', async () => {
    await fc.assert(
      fc.asyncProperty(orders, fc.constantFrom('IMK', 'JPY', 'KWD'), async (list, currency) => {
        const payouts = [{ reference: 'PO-1', on: '2027-01-10', currency, orders: list }]
        expect(await readSettlements(Buffer.from(settlementFile(payouts)))).toEqual(payouts)
      }),
      { numRuns: 80 },
    )
  })
})

describe('a payment file', () => {
  it('says number and sum twice, escapes what people are called, and cuts what is too long', () => {
    const file = paymentOrderFile({
      reference: 'LR-20270110-1A2B3C4D',
      at: new Date('2027-01-10T09:00:00Z'),
      on: '2027-01-10',
      currency: 'IMK',
      payer: { holder: 'A & B', number: 'DE89370400440532013000', bic: '' },
      payments: [{ reference: 'REFUND-1', amount: 80_250, payee: `<${'x'.repeat(300)}>`, number: '4711', text: 'a "refund"' }, {
        reference: 'REFUND-2',
        amount: 5,
        payee: 'C',
        number: 'GB29NWBK60161331926819',
        text: '',
      }],
    })
    const texts = new Map<string, string[]>()
    const parser = new SaxesParser()
    const path: string[] = []
    parser.on('opentag', tag => path.push(tag.name))
    parser.on('text', text => texts.set(path.at(-1) ?? '', [...texts.get(path.at(-1) ?? '') ?? [], text.trim()].filter(one => one !== '')))
    parser.on('closetag', () => path.pop())
    parser.write(file).close()
    expect([texts.get('NbOfTxs'), texts.get('CtrlSum'), texts.get('InstdAmt'), texts.get('EndToEndId'), texts.get('IBAN')]).toEqual([['2',
      '2'], ['802.55', '802.55'], ['802.50', '0.05'], ['REFUND-1', 'REFUND-2'], ['DE89370400440532013000', 'GB29NWBK60161331926819']])
    expect(texts.get('Nm')).toEqual(['A & B', 'A & B', `<${'x'.repeat(139)}`, 'C'])
  })
})
