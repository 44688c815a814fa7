import { textAnswer, type Answers } from '../application/answers'
import type { Notice } from '../notice/schema'
import { identityQuestion } from './identity-question'
import { nameLikeness, plainName, soundKey } from './likeness'

/**
 * Whether two applications are likely of one person: what is compared, by what pairs are found, and a score with its reasons. Only a person
 * decides what it means.
 */

/** What tells who somebody is, as typed; empty where it was not. */
export interface Identity {
  name: string
  bornOn: string
  identityKind: string
  identityNumber: string
  mobile: string
  email: string
}

export function identityOf(notice: Notice, answers: Answers): Identity {
  const email = notice.sections.flatMap(s => s.questions).find(q => q.kind === 'email')?.id ?? 'email'
  return {
    name: textAnswer(answers, 'certificateName'),
    bornOn: textAnswer(answers, 'bornOn'),
    identityKind: textAnswer(answers, 'identityKind'),
    identityNumber: identityNumberKey(textAnswer(answers, identityQuestion(notice))),
    mobile: textAnswer(answers, 'mobile').replace(/\D/g, '').slice(-10),
    email: textAnswer(answers, email).toLowerCase(),
  }
}

/** Shortest number that counts as one. */
const shortestNumber = 5
/** A paper's number as it is compared: letters and digits alone, upper case; empty where it is too short to tell anybody apart. */
export function identityNumberKey(typed: string): string {
  const key = typed.normalize('NFKC').toUpperCase().replace(/[^\p{L}\p{N}]/gu, '')
  return key.length < shortestNumber ? '' : key
}

/** What an identity is found by: two that are likely of one person share one key at least. Texts; stored as hashes. */
export function identityKeys(identity: Identity): string[] {
  const { identityNumber, mobile, email, bornOn } = identity
  const sounds = plainName(identity.name).map(soundKey).filter(key => key.length > 1).slice(0, 6)
  const whole = [...sounds].sort().join(' ')
  const keys = [
    identityNumber && `i:${identityNumber}`,
    mobile.length >= 6 && `m:${mobile}`,
    email && `e:${email}`,
    ...bornOn ? sounds.map(sound => `d:${bornOn}:${sound}`) : [],
    // A day or month, or a year, that was typed wrong.
    ...bornOn && sounds.length > 1 ? [`y:${bornOn.slice(0, 4)}:${whole}`, `n:${bornOn.slice(5)}:${whole}`] : [],
  ]
  return [...new Set(keys.filter(key => typeof key === 'string' && key !== ''))] as string[]
}

/**
 * Two halves of 32 bits by FNV-1a (Fowler, Noll and Vo, offset and prime as published) and by its multiplication alone, as one signed
 * number of 64 bits.
 */
export function keyHash(key: string): bigint {
  let a = 0x811c9dc5
  let b = 0x9747b28c
  for (let i = 0; i < key.length; i++) {
    const code = key.charCodeAt(i)
    a = Math.imul(a ^ code, 0x01000193)
    b = Math.imul(b + code, 0x85ebca6b) ^ (b >>> 13)
  }
  return BigInt.asIntN(64, BigInt(a >>> 0) << 32n | BigInt(b >>> 0))
}

/** One thing that speaks for one person or against it, in bits of evidence. */
export interface PairReason {
  code:
    | 'number'
    | 'number-near'
    | 'number-other'
    | 'name'
    | 'name-near'
    | 'name-other'
    | 'born'
    | 'born-near'
    | 'born-other'
    | 'mobile'
    | 'email'
  bits: number
}

/** Score from which a pair is asked about. */
export const likelyFrom = 50
/** Bits that have to be spoken for before it is as likely as not that two who share a key are one. */
const even = 9

/**
 * Score from 0 to 100 of two identities being of one person, with its reasons. Bits of evidence are added as in the model of Fellegi and
 * Sunter, "A Theory for Record Linkage" (1969); their sizes are ours, set on made-up people (see bench/README.md). That two bear one name
 * tells less the more bear it, by their number in bits: among a million, several of a common name are born on one day.
 *
 * @param namesakes how many others of the examination bear the name of one of the two, the other one among them; from 1.
 */
export function pairScore(first: Identity, second: Identity, namesakes = 1): { score: number, reasons: PairReason[] } {
  const reasons: PairReason[] = []
  const add = (code: PairReason['code'], bits: number) => reasons.push({ code, bits })
  if (first.identityNumber !== '' && second.identityNumber !== '') {
    const distance = editsBetween(first.identityNumber, second.identityNumber)
    if (distance === 0) add('number', 12)
    else if (distance === 1) add('number-near', 5)
    else add('number-other', first.identityKind === second.identityKind ? -5 : -0.5)
  }
  addName(first.name, second.name, Math.log2(Math.max(1, namesakes)), add)
  addBirth(first.bornOn, second.bornOn, add)
  if (first.mobile !== '' && first.mobile === second.mobile) add('mobile', 4.5)
  if (first.email !== '' && first.email === second.email) add('email', 5.5)
  const bits = reasons.reduce((sum, reason) => sum + reason.bits, -even)
  return { score: Math.round(100 / (1 + 2 ** -bits)), reasons }
}

type Add = (code: PairReason['code'], bits: number) => void

function addName(first: string, second: string, common: number, add: Add): void {
  const [a, b] = [plainName(first), plainName(second)]
  if (a.length === 0 || b.length === 0) return
  const likeness = nameLikeness(a, b)
  // More words tell more.
  const words = Math.min(a.length, b.length)
  const told = (bits: number) => Math.max(0, Math.round(2 * (bits - common)) / 2)
  if (likeness >= 0.99) add('name', told(4 + Math.min(2, words)))
  else if (likeness >= 0.86) add('name-near', told(2 + Math.min(2, words)))
  else if (likeness >= 0.7) add('name-near', 1)
  else add('name-other', -5)
}

function addBirth(first: string, second: string, add: Add): void {
  if (first === '' || second === '') return
  if (first === second) return add('born', 7)
  const [y1, m1, d1] = first.split('-')
  const [y2, m2, d2] = second.split('-')
  const swapped = y1 === y2 && m1 === d2 && d1 === m2
  if (swapped || editsBetween(first, second) === 1) add('born-near', 2.5)
  else add('born-other', -5)
}

/** 0 for equal texts, 1 for one letter changed, added, left out, or two neighbours swapped; 2 for anything more. */
function editsBetween(first: string, second: string): 0 | 1 | 2 {
  if (first === second) return 0
  const [short, long] = first.length <= second.length ? [first, second] : [second, first]
  if (long.length - short.length > 1) return 2
  let i = 0
  while (i < short.length && short[i] === long[i]) i++
  if (short.length < long.length) return short.slice(i) === long.slice(i + 1) ? 1 : 2
  if (short.slice(i + 1) === long.slice(i + 1)) return 1
  return short[i] === long[i + 1] && short[i + 1] === long[i] && short.slice(i + 2) === long.slice(i + 2) ? 1 : 2
}
