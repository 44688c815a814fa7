import { readDates } from '../calendar/read-date'
import { jaroWinkler, nameLikeness, plainLetters, plainName } from '../identity/likeness'
import type { Answers } from '../application/answers'
import type { Question } from '../notice/schema'

/** What a machine read on papers, held against answers: always a hint for a person, never a verdict. */

/**
 * A word as it was read. Pages count from 1; the box is in parts of the page's width and height, from its upper left corner; `sure` is from
 * 0 to 100, as the reader says.
 */
export interface PrintedWord {
  page: number
  line: number
  text: string
  box: readonly [left: number, top: number, right: number, bottom: number]
  sure: number
}

export interface LookedFor {
  question: string
  text: string
  as: 'name' | 'date' | 'number' | 'words'
}
/** Where an answer stands on a paper: as it is, nearly so, or nowhere that was read. */
export interface PrintHint {
  question: string
  result: 'there' | 'near' | 'not read'
  read: string
  page: number
  box: PrintedWord['box'] | null
}

/** What is looked for of some questions: names whatever the order of their words, days in any usual form, numbers without their blanks. */
export function lookedFor(questions: readonly Pick<Question, 'id' | 'kind'>[], answers: Answers): LookedFor[] {
  return questions.flatMap(({ id, kind }) => {
    const text = answers[id]
    if (typeof text !== 'string' || text.trim() === '') return []
    return [{
      question: id,
      text,
      as: kind === 'name' ? 'name' as const : kind === 'date' ? 'date' as const : /\d/.test(text) ? 'number' as const : 'words' as const,
    }]
  })
}

/** Likeness from which a name that was read counts as nearly the one that was looked for; below it other people's names begin. */
const nearFrom = 0.9
const mostWords = 8

/** Where each answer stands among the words of a paper. */
export function printHints(words: readonly PrintedWord[], wanted: readonly LookedFor[]): PrintHint[] {
  return wanted.map((one) => {
    let best: { hint: PrintHint, score: number } = {
      hint: { question: one.question, result: 'not read', read: '', page: 1, box: null },
      score: 0,
    }
    const count = one.as === 'date' ? [1, 2, 3] : spans(one)
    for (const size of count) {
      for (let from = 0; from + size <= words.length; from += 1) {
        const run = words.slice(from, from + size)
        if (run.some(word => word.page !== run[0]?.page)) continue
        const score = likenessOf(one, run)
        if (score > best.score) {
          best = {
            score,
            hint: {
              question: one.question,
              result: score === 1 ? 'there' : 'near',
              read: run.map(word => word.text).join(' '),
              page: run[0]?.page ?? 1,
              box: around(run),
            },
          }
        }
        if (best.score === 1) return best.hint
      }
    }
    return best.hint
  })
}

// As many words as the answer has, one fewer where two were written together, and some more where one was torn apart.
function spans({ text }: LookedFor): number[] {
  const size = Math.min(mostWords, text.trim().split(/\s+/u).length)
  return [size, size + 1, size - 1, size + 2].filter(n => n >= 1)
}

/** 1 where a run of words says the answer, above 0 where nearly so, else 0. */
function likenessOf(wanted: LookedFor, run: readonly PrintedWord[]): number {
  const text = run.map(word => word.text).join(' ')
  switch (wanted.as) {
    case 'date':
      return readDates(text.replace(/^[^\p{L}\d]+|[^\p{L}\d]+$/gu, '')).includes(wanted.text) ? 1 : 0
    case 'number':
      return numberLikeness(signs(wanted.text), signs(text))
    case 'name': {
      const likeness = nameLikeness(plainName(wanted.text), plainName(text))
      return likeness >= nearFrom ? likeness : 0
    }
    case 'words': {
      const likeness = jaroWinkler(plainLetters(wanted.text), plainLetters(text))
      return likeness >= nearFrom ? likeness : 0
    }
  }
}

const signs = (text: string) => text.toUpperCase().replace(/[^\p{L}\p{N}]/gu, '')
/** Signs that readers of print take for each other. Common practice, no source. */
const alike: Readonly<Record<string, string>> = { O: '0', Q: '0', D: '0', I: '1', L: '1', Z: '2', S: '5', G: '6', B: '8' }
const folded = (text: string) => [...text].map(sign => alike[sign] ?? sign).join('')

// A number is read as it is, or with signs that print confuses; one wrong digit is another number.
function numberLikeness(wanted: string, read: string): number {
  if (wanted === read) return 1
  return folded(wanted) === folded(read) ? 0.95 : 0
}

function around(run: readonly PrintedWord[]): PrintedWord['box'] {
  const boxes = run.map(word => word.box)
  return [Math.min(...boxes.map(b => b[0])), Math.min(...boxes.map(b => b[1])), Math.max(...boxes.map(b => b[2])),
    Math.max(...boxes.map(b => b[3]))]
}
