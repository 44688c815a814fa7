import { conditionTest, leafTests, openQuestion, textAnswer, type LiveAnswers } from '../application/answers'
import { addFractions, compareFractions, fraction, parseDecimal, zero, type Fraction } from '../marks/decimal'
import type { Relaxation } from '../notice/rules'

/** How far a bound is eased for one person: surely, and at most if what is still open turns out in their favour. */
export interface Eased {
  readonly by: Fraction
  /** Titles of the relaxations that hold. */
  readonly titles: string
  readonly atMost: Fraction
  /** Titles of those that hang on an answer not given, and the first such question. */
  readonly maybe: string
  readonly question: string
}

/** What an unanswered number of years may come to when the notice gives no limit. */
const mostYears = 60

interface Held {
  title: string
  amount: Fraction
  question: string | null
}

/**
 * Prepares the relaxations of one rule; the function then eases the bound for one sheet. Equal circumstances give the
 * very same object, so that callers may keep what follows from it.
 */
export function easing(rule: { relaxations: Relaxation[], combine: 'largest' | 'sum', cap?: string }): (live: LiveAnswers) => Eased {
  const list = rule.relaxations.map(relaxation => ({
    relaxation,
    test: relaxation.when === undefined ? null : conditionTest(relaxation.when),
    leaves: leafTests(relaxation.when),
    fixed: typeof relaxation.by === 'string' ? parseDecimal(relaxation.by) ?? zero : null,
  }))
  const cap = rule.cap === undefined ? null : parseDecimal(rule.cap)
  // Which of them hold, as a binary number, where nothing is open and no amount depends on an answer.
  const plain = new Map<number, Eased>()
  const other = new Map<string, Eased>()
  const gather = (live: LiveAnswers): Held[] =>
    list.flatMap(({ relaxation, test, leaves, fixed }): Held[] => {
      const holds = test ? test(live) : true
      if (holds === false) return []
      const years = fixed === null ? yearsOf(relaxation, live) : null
      const question = holds === null ? openQuestion(leaves, live) : years?.question ?? null
      return [{ title: relaxation.title, amount: fixed ?? fraction(years?.amount ?? 0), question }]
    })
  return (live) => {
    let key = 0
    let isPlain = true
    for (const { test, fixed } of list) {
      const holds = test ? test(live) : true
      key = key * 2 + (holds === false ? 0 : 1)
      if (holds === null || (holds && fixed === null)) isPlain = false
    }
    const known = isPlain ? plain.get(key) : undefined
    if (known) return known
    const held = gather(live)
    const name = held.map(h => `${h.title}/${h.amount.n}/${h.question ?? ''}`).join()
    const eased = (isPlain ? undefined : other.get(name)) ?? easedBy(held, rule.combine, cap)
    if (isPlain) plain.set(key, eased)
    else other.set(name, eased)
    return eased
  }
}

function easedBy(held: Held[], combine: 'largest' | 'sum', cap: Fraction | null): Eased {
  const together = (amounts: Fraction[]): Fraction => {
    const all = combine === 'sum' ? amounts.reduce(addFractions, zero) : amounts.reduce((a, b) => compareFractions(a, b) >= 0 ? a : b, zero)
    return cap && compareFractions(all, cap) > 0 ? cap : all
  }
  const [sure, open] = [held.filter(h => h.question === null), held.filter(h => h.question !== null)]
  return {
    by: together(sure.map(h => h.amount)),
    titles: sure.map(h => h.title).join(' and '),
    atMost: together(held.map(h => h.amount)),
    maybe: open.map(h => h.title).join(' or '),
    question: open[0]?.question ?? '',
  }
}

function yearsOf(relaxation: Relaxation, live: LiveAnswers): { amount: number, question: string | null } {
  if (typeof relaxation.by === 'string') return { amount: 0, question: null }
  const { answer, plus, atMost } = relaxation.by
  const text = textAnswer(live.answers, answer)
  const years = /^\d{1,2}$/.test(text) ? Number(text) : null
  return { amount: Math.min((years ?? mostYears) + plus, atMost ?? Infinity), question: years === null ? answer : null }
}
