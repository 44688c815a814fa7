import { isSupportedCountry, parsePhoneNumberFromString, validatePhoneNumberLength } from 'libphonenumber-js/max'
import { readAddress } from './address'

/**
 * What an office says of telephone numbers: the country whose numbers are written without +, where there is one, and ranges of its own,
 * which come first.
 */
export interface Telephones {
  country: string
  ranges: readonly { begins: string, digits: number }[]
}

/** Whether a code of ISO 3166-1 names a country whose plan is known. */
export const isCountry = (code: string): boolean => isSupportedCountry(code)

export type NumberFault = 'none' | 'country-wanted' | 'too-short' | 'too-long' | 'not-valid' | 'not-mobile'
export type ReadNumber = { number: string, fault?: undefined } | { number?: undefined, fault: NumberFault }

/**
 * A mobile number in the one form in which it is kept. In a range that the office declares it is kept as typed, without +; any other is
 * held against the numbering plan of its country (ITU-T E.164; plans by libphonenumber) and kept as E.164 writes it. An office that
 * declares nothing takes numbers without + as they are: nobody knows whose they are.
 */
export function readNumber(text: string, { country, ranges }: Telephones): ReadNumber {
  const plain = text.trim().replace(/[\s\-().]/g, '')
  if (!/^\+?\d{4,15}$/.test(plain)) return { fault: 'none' }
  const digits = plain.replace('+', '')
  if (ranges.some(range => digits.startsWith(range.begins) && digits.length === range.digits)) return { number: digits }
  if (!plain.startsWith('+') && country === '') {
    return ranges.length > 0
      ? { fault: 'country-wanted' }
      : readAddress('mobile', plain) === null
      ? { fault: 'none' }
      : { number: plain }
  }
  const own = isSupportedCountry(country) ? country : undefined
  const length = validatePhoneNumberLength(plain, own)
  if (length === 'TOO_SHORT' || length === 'TOO_LONG') return { fault: length === 'TOO_SHORT' ? 'too-short' : 'too-long' }
  const found = parsePhoneNumberFromString(plain, own)
  if (!found?.isValid()) return { fault: 'not-valid' }
  // Where a plan does not tell them apart, any of its numbers may be one that takes short messages.
  const type = found.getType()
  return type === undefined || type === 'MOBILE' || type === 'FIXED_LINE_OR_MOBILE' || type === 'PERSONAL_NUMBER'
    ? { number: found.number }
    : { fault: 'not-mobile' }
}
