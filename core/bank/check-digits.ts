/**
 * ISO/IEC 7064 MOD 97-10 over letters and digits, letters as 10 to 35: the remainder of the number that they make. Of a text with sound
 * check digits at its end it is 1.
 *
 * @throws RangeError for a text with other signs.
 */
export function mod97(text: string): number {
  let remainder = 0
  for (const sign of text) {
    const value = /^\d$/.test(sign) ? Number(sign) : /^[A-Z]$/.test(sign) ? sign.charCodeAt(0) - 55 : null
    if (value === null) throw new RangeError(`letters A to Z and digits expected, got "${sign}"`)
    remainder = (remainder * (value > 9 ? 100 : 10) + value) % 97
  }
  return remainder
}

const checkDigits = (body: string, prefix: string): string => String(98 - mod97(`${body}${prefix}00`)).padStart(2, '0')

/** A structured creditor reference (ISO 11649): RF, two check digits, and a body of 1 to 21 letters and digits. */
export function creditorReference(body: string): string {
  if (!/^[A-Z0-9]{1,21}$/.test(body)) throw new RangeError(`a body of 1 to 21 letters A to Z and digits expected, got "${body}"`)
  return `RF${checkDigits(body, 'RF')}${body}`
}

/**
 * Whether a text, without blanks and in capitals, is a creditor reference whose check digits agree. Those from 02 to 98 are made; others
 * would be found sound, too.
 */
export function isCreditorReference(text: string): boolean {
  const match = /^RF(\d\d)([A-Z0-9]{1,21})$/.exec(text)
  return match !== null && isMade(match[1]) && mod97(`${match[2]}RF${match[1]}`) === 1
}

/**
 * Whether a text, without blanks and in capitals, is an account number by ISO 13616 (IBAN): form, length up to 34 and check digits; whether
 * the bank has it nobody can tell from it.
 */
export function isIban(text: string): boolean {
  const match = /^([A-Z]{2})(\d\d)([A-Z0-9]{11,30})$/.exec(text)
  return match !== null && isMade(match[2]) && mod97(`${match[3]}${match[1]}${match[2]}`) === 1
}

const isMade = (digits = '') => Number(digits) >= 2 && Number(digits) <= 98

/** In groups of four, as such numbers are printed (ISO 11649 and ISO 13616, both for paper). */
export const inFours = (text: string): string => text.replace(/(.{4})(?=.)/g, '$1 ')
