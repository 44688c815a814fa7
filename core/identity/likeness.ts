import anyAscii from 'any-ascii'
import { nameKey } from './names'

/** Names that sound or are spelt alike, in any script: written down in plain letters first. */

/** A word of a name in plain lower-case letters, whatever its script. Only for comparing, never shown. */
export function plainLetters(word: string): string {
  return anyAscii(word.normalize('NFC')).toLowerCase().replace(/[^a-z0-9]/g, '')
}

const sounds: readonly (readonly [RegExp, string])[] = [
  [/ph/g, 'f'],
  [/ck|q/g, 'k'],
  [/x/g, 'ks'],
  [/sch|sh|ch|zh|j/g, 's'],
  [/z/g, 's'],
  [/c/g, 'k'],
  [/w/g, 'v'],
  [/([bcdgkpt])h/g, '$1'],
  [/h/g, ''],
]

/**
 * What a word has in common with others that are spelt otherwise and sound alike: its consonants, those of one sound as one, doubled ones
 * once; a first vowel counts as any vowel. `Mohammed` and `Muhamad` are both `mmd`. Rules of our own, after what spellings of one name
 * differ in most: vowels, aspirates and doubled letters.
 */
export function soundKey(word: string): string {
  let plain = plainLetters(word)
  if (plain === '') return ''
  const startsWithVowel = /^[aeiouy]/.test(plain)
  for (const [from, to] of sounds) plain = plain.replace(from, to)
  const consonants = plain.replace(/[aeiouy]/g, '').replace(/(.)\1+/g, '$1')
  return `${startsWithVowel ? 'a' : ''}${consonants}`
}

/**
 * Likeness of two texts by Jaro and Winkler, from 0 to 1. Winkler, "String Comparator Metrics and Enhanced Decision Rules in the
 * Fellegi-Sunter Model of Record Linkage" (1990): prefix of up to four letters, weight 0.1, counted where the likeness without it is above
 * 0.7 already.
 */
export function jaroWinkler(first: string, second: string): number {
  const jaro = jaroOf(first, second)
  if (jaro <= 0.7) return jaro
  let prefix = 0
  while (prefix < 4 && prefix < first.length && first[prefix] === second[prefix]) prefix++
  return jaro + prefix * 0.1 * (1 - jaro)
}

function jaroOf(first: string, second: string): number {
  if (first === second) return 1
  if (first === '' || second === '') return 0
  const reach = Math.max(0, Math.floor(Math.max(first.length, second.length) / 2) - 1)
  const taken = new Uint8Array(second.length)
  const common: string[] = []
  for (let i = 0; i < first.length; i++) {
    for (let j = Math.max(0, i - reach); j <= Math.min(second.length - 1, i + reach); j++) {
      if (taken[j] === 1 || first[i] !== second[j]) continue
      taken[j] = 1
      common.push(first[i] ?? '')
      break
    }
  }
  if (common.length === 0) return 0
  let moved = 0
  for (let j = 0, k = 0; j < second.length; j++) {
    if (taken[j] === 1 && second[j] !== common[k++]) moved++
  }
  const m = common.length
  return (m / first.length + m / second.length + (m - moved / 2) / m) / 3
}

/** A name made ready to be compared: its words in plain letters, in their order. */
export const plainName = (name: string): string[] => nameKey(name).split(' ').map(plainLetters).filter(word => word !== '')

/** Least likeness of two words that count as one. */
const alike = 0.84
const initialsCount = 0.9

/**
 * Likeness of two people's names, from 0 to 1, whatever the order of their words; an initial counts for a word that it begins. Words that
 * have no partner count as unlike, one that is there only on one side by half.
 */
export function nameLikeness(first: readonly string[], second: readonly string[]): number {
  if (first.length === 0 || second.length === 0) return 0
  // Written together or apart, it is one name.
  if (first.join('') === second.join('')) return 1
  const left = [...second]
  let sum = 0
  let paired = 0
  for (const word of [...first].sort((a, b) => b.length - a.length)) {
    let [best, at] = [0, -1]
    for (const [i, other] of left.entries()) {
      const likeness = wordLikeness(word, other)
      if (likeness > best) [best, at] = [likeness, i]
    }
    if (best < alike) continue
    left.splice(at, 1)
    sum += best
    paired++
  }
  const [shorter, longer] = [Math.min(first.length, second.length), Math.max(first.length, second.length)]
  return sum / (shorter + (longer - shorter) / 2) * (paired === 0 ? 0 : 1)
}

/**
 * Likeness of what somebody searches for to a name: the mean of what each word searched for finds in the name; words that were not searched
 * for count for nothing.
 */
export function searchLikeness(wanted: readonly string[], name: readonly string[]): number {
  if (wanted.length === 0) return 0
  return wanted.reduce((sum, word) => sum + Math.max(0, ...name.map(other => wordLikeness(word, other))), 0) / wanted.length
}

function wordLikeness(a: string, b: string): number {
  if (a === b) return 1
  if (a.length === 1 || b.length === 1) return a[0] === b[0] ? initialsCount : 0
  const likeness = jaroWinkler(a, b)
  return soundKey(a) === soundKey(b) ? Math.max(likeness, 0.95) : likeness
}
