import { mod97_10 } from 'cdigit'
import fc from 'fast-check'
import { isValidIBAN } from 'ibantools'
import { describe, expect, it } from 'vitest'
import { applicationNumber } from '../identity/check-digit'
import { creditorReference, inFours, isCreditorReference, isIban, mod97 } from './check-digits'
import { matchesOf, numbersNamedBy, usualThreshold, type Due, type Incoming } from './match'
import { DueIndex } from './name-index'
import { namedNumbers, numberOf, referenceOf } from './references'
import { balanceFault, gapsBetween, readAmount, type Statement } from './statement'

const bodies = fc.string({ unit: fc.constantFrom(...'ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789'), minLength: 1, maxLength: 21 })
const numbers = fc.tuple(fc.constantFrom('HL27', 'MC27', 'LK26'), fc.integer({ min: 1, max: 9_999_999 })).map(([cycle, serial]) =>
  applicationNumber(cycle, serial)
)

describe('check digits', () => {
  // RF18 5390 0754 7034 and RF18 0000 0000 0539 0075 4703 4 are the examples published with ISO 11649; the account numbers are examples of
  // the registry of ISO 13616. From memory.
  it.each([['RF18539007547034', true], ['RF18000000000539007547034', true], ['RF18539007547043', false], ['RF19539007547034', false], [
    'RF18',
    false,
  ], ['RF18539007547034539007547034', false]])('of the reference %s: %s', (text, good) => {
    expect(isCreditorReference(text)).toBe(good)
  })

  it.each([['GB29NWBK60161331926819', true], ['DE89370400440532013000', true], ['DE89370400440532013001', false], ['GB29 NWBK 6016',
    false]])('of the account %s: %s', (text, good) => {
      expect(isIban(text)).toBe(good)
    })

  it('agree with two packages of general purpose', () => {
    fc.assert(fc.property(bodies, (body) => {
      const made = creditorReference(body)
      expect(isCreditorReference(made)).toBe(true)
      const figures = (text: string) => text.replace(/[A-Z]/g, letter => String(letter.charCodeAt(0) - 55))
      // The package counts from 00 to 96, ISO 13616 and ISO 11649 from 02 to 98: the same remainders.
      expect(Number(mod97_10.compute(figures(`${body}RF`)))).toBe(Number(made.slice(2, 4)) % 97)
    }))
    fc.assert(fc.property(fc.bigInt({ min: 0n, max: 10n ** 18n - 1n }), (n) => {
      const digits = String(n).padStart(18, '0')
      const account = `DE${String(98 - mod97(`${digits}DE00`)).padStart(2, '0')}${digits}`
      expect([isIban(account), isValidIBAN(account)]).toEqual([true, true])
    }))
  })

  it('find every wrong sign and every swap of neighbours', () => {
    fc.assert(fc.property(bodies, fc.nat(24), fc.constantFrom(...'ABCXYZ0123456789'), (body, place, sign) => {
      const made = creditorReference(body)
      const at = 4 + (place % body.length)
      // A letter counts as two digits: among signs of one kind nothing is overlooked.
      const isAlike = (other: string) => /\d/.test(made.charAt(at)) === /\d/.test(other) && other !== ''
      const wrong = made.slice(0, at) + sign + made.slice(at + 1)
      if (isAlike(sign)) expect(isCreditorReference(wrong)).toBe(wrong === made)
      const swapped = made.slice(0, at) + made.charAt(at + 1) + made.charAt(at) + made.slice(at + 2)
      if (isAlike(made.charAt(at + 1))) expect(isCreditorReference(swapped)).toBe(swapped === made)
    }))
    expect(inFours('RF18539007547034')).toBe('RF18 5390 0754 7034')
  })
})

describe('references within texts', () => {
  it('lead back to the application, however banks and people part them', () => {
    fc.assert(fc.property(
      numbers,
      fc.array(fc.nat(14), { maxLength: 4 }),
      fc.constantFrom('', 'EREF+', 'fee for '),
      (number, breaks, before) => {
        const reference = referenceOf(number)
        expect(numberOf(reference)).toBe(number)
        const text = before + [...reference].map((sign, i) => breaks.includes(i) ? `${sign} ` : sign).join('').toLowerCase()
        expect(namedNumbers([null, text]).exact).toEqual([number])
        expect(namedNumbers([null, `exam ${number} thank you`]).exact).toEqual([number])
      },
    ))
  })

  it('are mended from one fault: a wrong digit, two swapped, a letter for a digit, one lost or one too many', () => {
    fc.assert(fc.property(
      numbers,
      fc.integer({ min: 2, max: 14 }),
      fc.constantFrom('wrong', 'swapped', 'letter', 'lost', 'more'),
      fc.integer({ min: 1, max: 9 }),
      (number, at, fault, off) => {
        const reference = referenceOf(number)
        const sign = reference.charAt(at)
        const digit = /\d/.test(sign) ? String((Number(sign) + off) % 10) : sign === 'X' ? 'Y' : 'X'
        const changed = {
          wrong: reference.slice(0, at) + digit + reference.slice(at + 1),
          swapped: reference.slice(0, at - 1) + sign + reference.charAt(at - 1) + reference.slice(at + 1),
          letter: reference.replaceAll('0', 'O').replaceAll('1', 'I'),
          lost: reference.slice(0, at) + reference.slice(at + 1),
          more: reference.slice(0, at) + digit + reference.slice(at),
        }[fault]
        const found = namedNumbers([changed, ''])
        expect([...found.exact, ...found.repaired]).toContain(number)
      },
    ))
  })
})

describe('amounts', () => {
  // Marks and groups as banks write them: common practice, no source.
  it.each([
    ['1.234,56', ',', 123_456],
    ['1234.56', '.', 123_456],
    ['1,234.56', '.', 123_456],
    ['1 234,5', ',', 123_450],
    ['1’234.50', '.', 123_450],
    ['-12,00', ',', -1200],
    ['12,00-', ',', -1200],
    ['+640', ',', 64_000],
    ['250,00', ',', 25_000],
    ['1.23', ',', null],
    ['12.345', '.', null],
    ['1,23,456.00', '.', null],
    ['', '.', null],
    ['--1', '.', null],
    ['12 Mark', ',', null],
    ['99999999999999', '.', null],
    ['1.234', ',', 123_400],
  ] as const)('%s with the mark %s', (text, mark, wanted) => {
    expect(readAmount(text, mark, 2)).toBe(wanted)
  })

  it('have the places of their currency', () => {
    expect([readAmount('1500', '.', 0), readAmount('1500.00', '.', 0), readAmount('1500.5', '.', 0), readAmount('1.234', '.', 3)]).toEqual([
      1500,
      1500,
      null,
      1234,
    ])
  })
})

describe('a statement', () => {
  const statement: Statement = {
    format: 'CSV',
    account: 'A',
    identification: '',
    sequence: 4,
    currency: 'IMK',
    opening: { on: '2027-01-04', amount: 100 },
    closing: { on: '2027-01-04', amount: 150 },
    lines: [],
  }
  it('that does not add up, or does not go on from the one before, says so', () => {
    expect(balanceFault(statement)).toEqual({ opening: 100, movements: 0, closing: 150 })
    expect(balanceFault({ ...statement, closing: null })).toBeNull()
    expect(gapsBetween({ sequence: 2, closing: { on: '2027-01-03', amount: 90 } }, statement)).toEqual([{
      code: 'sequence',
      wanted: 3,
      found: 4,
    }, { code: 'opening', wanted: 90, found: 100 }])
    expect(gapsBetween({ sequence: 3, closing: { on: '2027-01-03', amount: 100 } }, statement)).toEqual([])
    expect(gapsBetween({ sequence: 250, closing: null }, { sequence: 1, opening: null })).toEqual([])
  })
})

describe('matching', () => {
  const due = (serial: number, name: string, more: Partial<Due> = {}): Due => ({
    application: `id-${serial}`,
    number: applicationNumber('HL27', serial),
    name,
    currency: 'IMK',
    due: 64_000,
    isOver: false,
    ...more,
  })
  const [tavi, sera] = [due(48_213, 'Tavirel Osk-Anundé'), due(48_214, 'Sera Halwen')]
  const known = (...dues: Due[]) => new Map(dues.map(one => [one.number, one]))
  const line = (more: Partial<Incoming>): Incoming => ({ amount: 64_000, reference: null, text: '', name: null, currency: 'IMK', ...more })

  it('by a whole reference holds for any amount and any payer', () => {
    for (const [amount, reason] of [[64_000, 'amount-fits'], [60_000, 'amount-less'], [70_000, 'amount-more']] as const) {
      expect(matchesOf(line({ amount, text: referenceOf(tavi.number), name: 'An Uncle' }), known(tavi), [])).toMatchObject([{
        step: 'reference',
        score: 1,
        reasons: ['reference', reason],
        parts: [{ application: 'id-48213', amount }],
      }])
    }
  })

  it('by a mended reference needs the name, since another may be one fault away', () => {
    const wrong = referenceOf(tavi.number).replace(/3$/, '8')
    expect(numbersNamedBy(line({ text: wrong })).repaired).toContain(tavi.number)
    expect(matchesOf(line({ text: wrong, name: 'OSK ANUNDE TAVIREL' }), known(tavi), [])[0]?.score).toBeGreaterThanOrEqual(usualThreshold)
    expect(matchesOf(line({ text: wrong, name: 'An Uncle' }), known(tavi), [])[0]?.score).toBeLessThan(usualThreshold)
  })

  it('of one payment for several goes by the sum of what they owe', () => {
    const text = `${tavi.number} and ${sera.number}`
    expect(matchesOf(line({ amount: 128_000, text }), known(tavi, sera), [])).toMatchObject([{
      step: 'several',
      score: 1,
      parts: [{ amount: 64_000 }, { amount: 64_000 }],
    }])
    expect(matchesOf(line({ amount: 100_000, text }), known(tavi, sera), []).every(match => match.score < usualThreshold)).toBe(true)
  })

  it('by the name alone holds for one of that name, not for two', () => {
    expect(matchesOf(line({ name: 'Sera  Halwen' }), known(), [tavi, sera])).toMatchObject([{
      step: 'name',
      score: 0.95,
      parts: [{ application: 'id-48214' }],
    }])
    expect(matchesOf(line({ text: 'fee of halwen sera thank you', name: 'A Neighbour' }), known(), [tavi, sera])[0]).toMatchObject({
      step: 'name',
      parts: [{ application: 'id-48214' }],
    })
    const twice = matchesOf(line({ name: 'Sera Halwen' }), known(), [sera, due(9, 'Sera Halwen')])
    expect(twice.length).toBe(2)
    expect(twice.every(match => match.score < usualThreshold && match.reasons.includes('others-as-good'))).toBe(true)
    expect(matchesOf(line({ name: 'Sera Halwen', amount: 63_000 }), known(), [sera])).toEqual([])
    expect(matchesOf(line({ text: referenceOf(sera.number), currency: 'EUR' }), known(sera), [])).toEqual([])
  })
})

describe('the index of dues', () => {
  const words = ['Tavirel', 'Osk', 'Anundé', 'Sera', 'Halwen', 'Orla', 'Benn', 'T', 'O', 'Sorn']
  const names = fc.array(fc.constantFrom(...words), { minLength: 1, maxLength: 4 }).map(parts => parts.join(' '))
  const amounts = fc.constantFrom(64_000, 65_250, 0)
  const dues = fc.array(fc.record({ name: names, due: amounts }), { maxLength: 30 }).map(list =>
    list.map((one, i): Due => ({
      ...one,
      application: `id-${i}`,
      number: applicationNumber('HL27', i + 1),
      currency: 'IMK',
      isOver: false,
    }))
  )
  const lines = fc.record({
    name: fc.option(names),
    text: fc.array(fc.oneof(names, fc.constantFrom('fee', 'for the examination of', '2027')), { maxLength: 4 }).map(parts =>
      parts.join(' ')
    ),
    amount: amounts,
  })

  it('overlooks nobody whom going through all of them would find', () => {
    fc.assert(
      fc.property(dues, lines, (all, { name, text, amount }) => {
        const line: Incoming = { name, text, amount, reference: null, currency: 'IMK' }
        // A name of one word tells nobody apart, and nothing is owed by whoever owes nothing.
        const owing = all.filter(one => one.due > 0 && one.name.split(' ').length > 1)
        const whose = (matches: ReturnType<typeof matchesOf>) =>
          matches.map(match => `${match.parts[0]?.application} ${match.score}`).sort()
        expect(whose(matchesOf(line, new Map(), new DueIndex(all).find(line)))).toEqual(whose(matchesOf(line, new Map(), owing)))
      }),
      { numRuns: 500 },
    )
  })
})
