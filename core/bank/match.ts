import { compareNames, nameKey } from '../identity/names'
import { namedNumbers, type NamedNumbers } from './references'
import type { StatementLine } from './statement'

/** What money may be for. `due`: what is still owed, in minor units of `currency`; nothing or less when all is in. */
interface Owed {
  number: string
  name: string
  currency: string
  due: number
  /** Nobody is to pay it any more: withdrawn, lapsed or refused. */
  isOver: boolean
}
/** What the office knows of an application to which money may belong. */
export interface Due extends Owed {
  application: string
}
/** A bill for several, under a number of its own: `name` is who pays, `due` the sum of what those on it owe who are still in the flow. */
export interface Billed extends Owed {
  dues: readonly Due[]
}
export type Payable = Due | Billed

/** A bill as it stands, from what those on it owe. */
export function billed(bill: Pick<Billed, 'number' | 'name' | 'currency' | 'isOver'>, dues: readonly Due[]): Billed {
  return { ...bill, dues, due: owingOf(dues).reduce((sum, one) => sum + one.due, 0) }
}
const owingOf = (dues: readonly Due[]) => dues.filter(one => one.due > 0 && !one.isOver)

/** How a line was led to a due, the surest first. */
export const matchSteps = ['reference', 'repaired', 'several', 'name'] as const
export type MatchStep = typeof matchSteps[number]

/** Why a line and a due are thought to belong together, or not quite. */
export type MatchReason =
  | 'reference'
  | 'bill'
  | 'reference-repaired'
  | 'amount-fits'
  | 'amount-less'
  | 'amount-more'
  | 'nothing-due'
  | 'name-same'
  | 'name-like'
  | 'name-initials'
  | 'name-other'
  | 'several-add-up'
  | 'left-the-flow'
  | 'others-as-good'

export interface MatchPart {
  application: string
  amount: number
}
/** `score` between 0 and 1. What is at the threshold or above is booked without a person. */
export interface Match {
  step: MatchStep
  score: number
  reasons: MatchReason[]
  parts: MatchPart[]
}

/** A line as matching sees it: money that came in. */
export type Incoming = Pick<StatementLine, 'amount' | 'reference' | 'text' | 'name'> & { currency: string }

export const numbersNamedBy = (line: Incoming): NamedNumbers => namedNumbers([line.reference, line.text])

/** Whatever a person has not decided is booked by itself from here on. */
export const usualThreshold = 0.9

/**
 * What a line may be for, the best first. `known`: what the numbers that it names stand for; `alike`: dues and bills of the very amount
 * that nobody else's line explains, for lines that name none.
 */
export function matchesOf(line: Incoming, known: ReadonlyMap<string, Payable>, alike: readonly Payable[]): Match[] {
  const { exact, repaired } = numbersNamedBy(line)
  const payables = (numbers: readonly string[]) =>
    numbers.flatMap(number => known.get(number) ?? []).filter(one => one.currency === line.currency)
  const named = payables(exact)
  const [only] = named
  if (only && named.length === 1) return [byReference(line, only)]
  if (named.length > 1) return bySeveral(line, named)
  const mended = payables(repaired)
  return ranked(mended.length > 0
    ? mended.map(due => byRepair(line, due))
    : alike.filter(due => due.due === line.amount && due.currency === line.currency).flatMap(due => byName(line, due)))
}

function amountReason(line: Incoming, { due }: Payable): MatchReason {
  if (due <= 0) return 'nothing-due'
  return line.amount === due ? 'amount-fits' : line.amount < due ? 'amount-less' : 'amount-more'
}

/**
 * The parts that an amount makes: all of it to one, or to those of a bill in their order, each up to what they owe, and what is too much to
 * the first.
 */
function partsOf(amount: number, payable: Payable): MatchPart[] {
  if ('application' in payable) return [{ application: payable.application, amount }]
  const owing = owingOf(payable.dues)
  let rest = amount
  const parts = (owing.length > 0 ? owing : payable.dues.slice(0, 1)).map(({ application, due }) => {
    const part = Math.min(Math.max(due, 0), rest)
    rest -= part
    return { application, amount: part }
  })
  return parts.map((part, place) => place === 0 ? { ...part, amount: part.amount + rest } : part).filter(part => part.amount > 0)
}

// Whoever copied a whole reference meant it: money is booked to it whatever its amount, and what is too much is owed back. Of a bill nobody
// can tell whose the difference is.
function byReference(line: Incoming, due: Payable): Match {
  if ('dues' in due) {
    return {
      step: 'several',
      score: line.amount !== due.due ? 0.5 : due.isOver ? 0.8 : 1,
      reasons: ['bill', line.amount === due.due ? 'several-add-up' : amountReason(line, due), ...over(due)],
      parts: partsOf(line.amount, due),
    }
  }
  // What becomes of money for somebody who has left is for a person to say.
  return {
    step: 'reference',
    score: due.isOver ? 0.8 : 1,
    reasons: ['reference', amountReason(line, due), ...over(due)],
    parts: [{ application: due.application, amount: line.amount }],
  }
}

// One payment for several people is split where it is the sum of what they owe; otherwise nobody can tell whose the difference is.
function bySeveral(line: Incoming, named: readonly Payable[]): Match[] {
  const all = [...new Map(named.flatMap(one => 'dues' in one ? owingOf(one.dues) : [one]).map(due => [due.application, due])).values()]
  const owing = all.filter(due => due.due > 0)
  const sum = owing.reduce((total, due) => total + due.due, 0)
  if (sum > 0 && sum === line.amount) {
    return [{
      step: 'several',
      score: owing.length === all.length ? 1 : 0.95,
      reasons: ['reference', 'several-add-up'],
      parts: owing.map(due => ({ application: due.application, amount: due.due })),
    }]
  }
  return named.map(due => ({ ...byReference(line, due), score: 0.5 }))
}

// A fault of copying may lead from one sound reference to another: the name has to agree.
function byRepair(line: Incoming, due: Payable): Match {
  const name = nameReason(line, due)
  const amount = amountReason(line, due)
  const score = 0.5 + (amount === 'amount-fits' ? 0.15 : 0)
    + { 'name-same': 0.3, 'name-like': 0.27, 'name-initials': 0.2, 'name-other': 0 }[name]
  return {
    step: 'repaired',
    score: round(score),
    reasons: ['reference-repaired', amount, name, ...over(due)],
    parts: partsOf(line.amount, due),
  }
}

function byName(line: Incoming, due: Payable): Match[] {
  const name = nameReason(line, due)
  const score = { 'name-same': 0.95, 'name-like': 0.91, 'name-initials': 0.7, 'name-other': 0 }[name]
  return score === 0 ? [] : [{ step: 'name', score, reasons: ['amount-fits', name, ...over(due)], parts: partsOf(line.amount, due) }]
}

type NameReason = Extract<MatchReason, `name-${string}`>
function nameReason(line: Incoming, due: Payable): NameReason {
  const difference = line.name === null ? 'different' : compareNames(line.name, due.name)
  if (difference === 'same' || difference === 'spelling') return 'name-same'
  if (difference === 'order' || isNamedIn(line.text, due.name)) return 'name-like'
  return difference === 'initials' ? 'name-initials' : 'name-other'
}

/** Whether all words of a name of two words or more stand side by side in a text, in any order. */
function isNamedIn(text: string, name: string): boolean {
  const words = nameKey(name).split(' ').sort()
  if (words.length < 2) return false
  const found = nameKey(text).split(' ')
  return found.some((_, from) => found.slice(from, from + words.length).sort().join(' ') === words.join(' '))
}

const over = (due: Payable): MatchReason[] => due.isOver ? ['left-the-flow'] : []
const round = (score: number) => Math.round(score * 100) / 100

/** Where two are nearly as good, neither is booked without a person. */
const asGoodAs = 0.15

function ranked(matches: readonly Match[]): Match[] {
  const sorted = [...matches].sort((a, b) => b.score - a.score)
  const [best, second] = sorted
  if (!best || !second || best.score - second.score >= asGoodAs) return sorted
  return sorted.map(match =>
    best.score - match.score < asGoodAs
      ? { ...match, score: Math.min(match.score, 0.6), reasons: [...match.reasons, 'others-as-good' as const] }
      : match
  )
}
