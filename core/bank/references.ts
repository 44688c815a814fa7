import { applicationNumber, isApplicationNumber } from '../identity/check-digit'
import { creditorReference, isCreditorReference } from './check-digits'

/**
 * The creditor reference of an application: nothing has to be kept to find the application by it again. `HL27-0048213-6` is
 * `RFccHL270048213`.
 */
export function referenceOf(number: string): string {
  const [cycle = '', serial = ''] = number.split('-')
  return creditorReference(`${cycle}${serial}`)
}

/** The application number that a reference of ours stands for; null for others. */
export function numberOf(reference: string): string | null {
  const match = /^RF\d\d([A-Z]{2}\d\d)(\d{7})$/.exec(reference)
  return match?.[1] && match[2] && isCreditorReference(reference) ? applicationNumber(match[1], Number(match[2])) : null
}

/** Application numbers that a line names: as they stand, or as they would stand with one fault of copying mended. */
export interface NamedNumbers {
  exact: string[]
  repaired: string[]
}

const length = 15
const form = /^[A-Z]{2}\d\d[A-Z]{2}\d{9}$/

/** Finds references and application numbers in the texts of a line. Only what is not found exactly is mended. */
export function namedNumbers(texts: readonly (string | null)[]): NamedNumbers {
  const words = texts.flatMap(text => text === null ? [] : text.toUpperCase().replace(/[^A-Z0-9\-/:.]+/g, ' ').split(/[ /:.]+/)).filter(
    word => word !== ''
  )
  const runs = joinedRuns(words)
  const exact =
    new Set(runs.flatMap(run => [...run.matchAll(/(?=(RF\d\d[A-Z]{2}\d{9})(?!\d))/g)].map(match => numberOf(match[1] ?? '') ?? ''))
      .concat(plainNumbers(words)).filter(number => number !== ''))
  if (exact.size > 0) return { exact: [...exact], repaired: [] }
  return { exact: [], repaired: [...new Set(runs.flatMap(repairs))] }
}

// Banks break texts anywhere and people put blanks where they like: neighbours are read together, too.
function joinedRuns(words: readonly string[]): string[] {
  const bare = words.map(word => word.replaceAll('-', ''))
  const runs = new Set<string>()
  for (let from = 0; from < bare.length; from += 1) {
    let run = ''
    for (let to = from; to < Math.min(bare.length, from + 8) && run.length < 2 * length; to += 1) {
      run += bare[to]
      if (run.length >= length - 1) runs.add(run)
    }
  }
  return [...runs]
}

function plainNumbers(words: readonly string[]): string[] {
  const together = words.join('').replaceAll('-', '')
  const written = words.filter(word => isApplicationNumber(word))
  // A spoilt reference may hold what looks like a number: what it stands for is found by mending it.
  const bare = [...together.matchAll(/(?<!RF\d{0,3})(?=([A-Z]{2}\d\d)(\d{7})(\d)(?!\d))/g)].map(match =>
    `${match[1]}-${match[2]}-${match[3]}`
  ).filter(isApplicationNumber)
  return [...new Set([...written, ...bare])]
}

/** Signs that are taken for another: common practice, no source. */
const alike: Record<string, string> = { O: '0', Q: '0', D: '0', I: '1', L: '1', Z: '2', S: '5', B: '8', G: '6' }

/**
 * Application numbers of all references that one fault of copying away from a text are sound: letters for digits, one wrong sign, two
 * swapped, one lost or one too many.
 */
function repairs(run: string): string[] {
  if (run.length < length - 1 || run.length > length + 1) return []
  const tried = new Set<string>([asShaped(run)])
  const signs = (place: number) => place === 0 ? ['R'] : place === 1 ? ['F'] : place === 4 || place === 5 ? letters : digits
  if (run.length === length) {
    for (let i = 0; i < length; i += 1) {
      for (const sign of signs(i)) tried.add(asShaped(run.slice(0, i) + sign + run.slice(i + 1)))
      if (i > 0) tried.add(asShaped(run.slice(0, i - 1) + run.charAt(i) + run.charAt(i - 1) + run.slice(i + 1)))
    }
  } else if (run.length < length) {
    for (let i = 0; i < length; i += 1) for (const sign of signs(i)) tried.add(asShaped(run.slice(0, i) + sign + run.slice(i)))
  } else for (let i = 0; i < run.length; i += 1) tried.add(asShaped(run.slice(0, i) + run.slice(i + 1)))
  return [...tried].filter(text => form.test(text)).flatMap(text => numberOf(text) ?? [])
}

const digits = [...'0123456789']
const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ']
const asShaped = (text: string) =>
  [...text].map((sign, place) => (place > 1 && place < 4) || place > 5 ? alike[sign] ?? sign : sign).join('')
