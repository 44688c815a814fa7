import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../../tests/support/sample'
import { actIds, actRule } from '../../application/acts/table'
import { actLetter, codeLetter } from './letters'

const notice = sampleNotice()
const told = actIds.filter(id => actRule(id).tells)

describe('a letter', () => {
  it.each(told)('about "%s" names the application and the office, and leaves nothing unsaid', (act) => {
    const { subject, body } = actLetter(notice, act, 'HL27-0000012-3')
    expect(subject).toMatch(/^HL27-0000012-3: \S/)
    expect(body).toContain(notice.body.name)
    expect(`${subject} ${body}`).not.toMatch(/undefined|null|\{|\}/)
  })

  it('says what is still open after the form has arrived and after a payment was refused, and until when', () => {
    for (const act of ['submit', 'payment-refused'] as const) expect(actLetter(notice, act, 'HL27-0000012-3').body).toContain('Sat 28 Nov 2026, 17:00 Ilmara time')
    expect(actLetter(notice, 'accept', 'HL27-0000012-3').body).toContain('Thu 24 Dec 2026, 09:00 Ilmara time')
  })

  it('about money says how much, and that all is paid only where nothing is due any more', () => {
    const body = (open: 'yes' | 'no') => actLetter(notice, 'payment-settled', 'HL27-0000012-3', { amount: 30_000, open }).body
    expect(body('yes')).toContain('IMK 300.00')
    expect(body('yes')).toContain('still due, at the latest Sat 28 Nov 2026')
    expect(body('yes')).not.toContain('complete')
    expect(body('no')).toContain('The application is complete')
    for (const act of ['refund-sent', 'refund-returned', 'payment-taken-back'] as const) expect(actLetter(notice, act, 'HL27-0000012-3', { amount: 30_000, open: 'no' }).body).toContain('IMK 300.00')
  })

  it('with a code begins with it, so that a telephone can offer it, and fits one text message', () => {
    const { body } = codeLetter('004217', 10)
    expect(body.startsWith('004217 ')).toBe(true)
    // 160 characters of the GSM 7-bit alphabet (3GPP TS 23.038, section 6.1; from memory); plain letters are in it.
    expect(body.length).toBeLessThanOrEqual(160)
    expect(body).toMatch(/^[\x20-\x7e]+$/)
  })
})
