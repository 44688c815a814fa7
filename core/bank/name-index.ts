import { nameKey } from '../identity/names'
import type { Incoming, Payable } from './match'

const wordsAtMost = 6

/** Dues and bills found by their amount and a name, among any number of them, without going through them all. */
export class DueIndex {
  readonly #byWords = new Map<string, Payable[]>()
  readonly #byInitials = new Map<string, Payable[]>()

  constructor(dues: Iterable<Payable>) {
    for (const due of dues) {
      const words = nameKey(due.name).split(' ').sort()
      if (due.due <= 0 || words.length < 2) continue
      add(this.#byWords, placed(due.currency, due.due, words.join(' ')), due)
      add(this.#byInitials, placed(due.currency, due.due, initialsOf(words)), due)
    }
  }

  /** Dues of the very amount of a line whose name may be that of the payer, or stands in the text. */
  find({ amount, currency, name, text }: Incoming): Payable[] {
    const found = new Set<Payable>()
    const take = (dues: readonly Payable[] | undefined) => dues?.forEach(due => found.add(due))
    if (name !== null) {
      const words = nameKey(name).split(' ').sort()
      take(this.#byWords.get(placed(currency, amount, words.join(' '))))
      take(this.#byInitials.get(placed(currency, amount, initialsOf(words))))
    }
    const told = nameKey(text).split(' ')
    for (let size = 2; size <= Math.min(wordsAtMost, told.length); size += 1) {
      for (let from = 0; from + size <= told.length; from += 1) {
        take(this.#byWords.get(placed(currency, amount, told.slice(from, from + size).sort().join(' '))))
      }
    }
    return [...found]
  }
}

const placed = (currency: string, amount: number, key: string) => `${currency} ${amount} ${key}`
const initialsOf = (words: readonly string[]) => words.map(word => word.charAt(0)).sort().join('')

function add(index: Map<string, Payable[]>, key: string, due: Payable): void {
  const there = index.get(key)
  if (there) there.push(due)
  else index.set(key, [due])
}
