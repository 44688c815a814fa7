import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../../tests/support/sample'
import { actIds } from '../../application/acts/rule'
import { actRule } from '../../application/acts/table'
import { letterFindings } from '../../notice/checks/letters'
import { letterActs } from '../../notice/schema'
import { actLetter, codeLetter } from './letters'

const notice = sampleNotice()
const person = { number: 'HL27-0000012-3', name: 'Ilena Vask' }
const told = actIds.filter(id => actRule(id).tells)

describe('a letter', () => {
  it('in the words of the notice names the person, holds what is usual, and is short on a telephone', () => {
    const letters = [{
      act: 'payment-settled' as const,
      subject: 'Paid: {number}',
      text: 'Dear {name}, {usual} {body}',
      short: '{number}: {amount} booked.',
    }]
    const read = (toTelephone: boolean) =>
      actLetter({ ...notice, letters }, 'payment-settled', person, { amount: 30_000, open: 'no' }, toTelephone)
    const usual = actLetter(notice, 'payment-settled', person, { amount: 30_000, open: 'no' }).body
    expect(read(false)).toEqual({ subject: 'Paid: HL27-0000012-3', body: `Dear Ilena Vask, ${usual}` })
    expect(read(true).body).toBe('HL27-0000012-3: IMK 300.00 booked.')
    expect(actLetter({ ...notice, letters }, 'accept', person)).toEqual(actLetter(notice, 'accept', person))
  })

  it('of a notice tells of what the product tells, and is found to name what it does not know, to be there twice, or to be too long', () => {
    expect(letterActs.filter(act => !told.includes(act))).toEqual([])
    const found = (...letters: object[]) =>
      letterFindings({
        ...notice,
        letters: letters.map(letter => ({ act: 'accept' as const, subject: 'Accepted', text: 'You are in.', ...letter })),
      }).map(({ code, at }) => `${code} ${at}`)
    expect(found({ text: '{name}: {usual}' })).toEqual([])
    expect(found({ text: 'Pay {amount}.' }, { subject: 'So {' })).toEqual(['letter.braces /letters/0/text', 'letter.twice /letters/1/act',
      'letter.braces /letters/1/subject'])
    expect([found({ short: 'x'.repeat(160) }), found({ short: 'x'.repeat(161) }), found({ short: `${'x'.repeat(150)}{name}` })]).toEqual([
      [],
      ['letter.long /letters/0/short'],
      ['letter.long /letters/0/short'],
    ])
  })

  it.each(told)('about "%s" names the application and the office, and leaves nothing unsaid', (act) => {
    const { subject, body } = actLetter(notice, act, person)
    expect(subject).toMatch(/^HL27-0000012-3: \S/)
    expect(body).toContain(notice.body.name)
    expect(`${subject} ${body}`).not.toMatch(/undefined|null|\{|\}/)
  })

  it('says what is still open after the form has arrived and after a payment was refused, and until when', () => {
    for (const act of ['submit', 'payment-refused'] as const) {
      expect(actLetter(notice, act, person).body).toContain('Sat 28 Nov 2026, 17:00 Ilmara time')
    }
    expect(actLetter(notice, 'accept', person).body).toContain('Thu 24 Dec 2026, 09:00 Ilmara time')
  })

  it('about money says how much, and that all is paid only where nothing is due any more', () => {
    const body = (open: 'yes' | 'no') => actLetter(notice, 'payment-settled', person, { amount: 30_000, open }).body
    expect(body('yes')).toContain('IMK 300.00')
    expect(body('yes')).toContain('still due, at the latest Sat 28 Nov 2026')
    expect(body('yes')).not.toContain('complete')
    expect(body('no')).toContain('The application is complete')
    for (const act of ['refund-sent', 'refund-returned', 'payment-taken-back'] as const) {
      expect(actLetter(notice, act, person, { amount: 30_000, open: 'no' }).body).toContain('IMK 300.00')
    }
  })

  it('with a code begins with it, so that a telephone can offer it, and fits one text message', () => {
    const { body } = codeLetter('004217', 10)
    expect(body.startsWith('004217 ')).toBe(true)
    // 160 characters of the GSM 7-bit alphabet (3GPP TS 23.038, section 6.1; from memory); plain letters are in it.
    expect(body.length).toBeLessThanOrEqual(160)
    expect(body).toMatch(/^[\x20-\x7e]+$/)
  })
})
