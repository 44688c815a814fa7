import { mod97 } from '../bank/check-digits'
import { mod11_10CheckDigit } from './check-digit'

/**
 * How numbers of papers are written: `A` stands for a letter of A to Z, `9` for a digit, `*` for either, anything else for itself. Blanks,
 * hyphens and case of what was typed do not matter.
 */
export interface NumberShape {
  shape: string
  check?: CheckMethod | undefined
}

/**
 * Ways of the last digits to tell a mistyped number: over its digits, ISO/IEC 7064 MOD 11,10 and ISO/IEC 7812-1 annex B (`luhn`); over its
 * letters and digits, ISO/IEC 7064 MOD 97-10 and the weights 7, 3, 1 of ICAO Doc 9303-3, 4.9.
 */
export const checkMethods = ['mod 11,10', 'mod 97-10', 'luhn', '7-3-1'] as const
export type CheckMethod = typeof checkMethods[number]

const plain = (text: string) => text.toUpperCase().replace(/[\s-]/gu, '')
const fits = (sign: string, wanted: string) =>
  wanted === 'A' ? /[A-Z]/.test(sign) : wanted === '9' ? /\d/.test(sign) : wanted === '*' ? /[A-Z\d]/.test(sign) : sign === wanted

/** What is wrong with a number that is written in one of some ways: its letters and digits, or, where those are in order, its check. */
export function numberFault(typed: string, shapes: readonly NumberShape[]): 'shape' | 'check' | null {
  const number = [...plain(typed)]
  const alike = shapes.filter(({ shape }) => {
    const wanted = [...plain(shape)]
    return wanted.length === number.length && wanted.every((one, i) => fits(number[i] ?? '', one))
  })
  if (alike.length === 0) return shapes.length === 0 ? null : 'shape'
  return alike.some(({ check }) => check === undefined || agrees(number.join(''), check)) ? null : 'check'
}

function agrees(written: string, check: CheckMethod): boolean {
  const number = written.replace(/[^A-Z\d]/g, '')
  const digits = number.replace(/\D/g, '')
  switch (check) {
    case 'mod 11,10':
      return digits.length > 1 && mod11_10CheckDigit(digits.slice(0, -1)) === digits.slice(-1)
    case 'luhn':
      return digits.length > 1 && luhnSum(digits) % 10 === 0
    case 'mod 97-10':
      return mod97(number) === 1
    case '7-3-1':
      return weightedSum(number.slice(0, -1)) % 10 === Number(number.slice(-1))
  }
}

// Every second digit from the right counts twice, as the sum of its own digits.
const luhnSum = (digits: string) =>
  [...digits].reverse().reduce((sum, digit, i) => sum + (i % 2 === 0 ? Number(digit) : Number(digit) * 2 - (Number(digit) > 4 ? 9 : 0)), 0)
// Letters count from ten on.
const weightedSum = (text: string) => [...text].reduce((sum, sign, i) => sum + parseInt(sign, 36) * ([7, 3, 1][i % 3] ?? 0), 0)
