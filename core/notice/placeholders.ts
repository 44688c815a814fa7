import { spellDate, spellInstant } from '../calendar/zone'
import { filledBraces } from '../words/braces'
import type { Notice } from './schema'

/**
 * Words in braces that stand in the notice's texts for everybody, such as `{closes}`, in whose place they read what the notice itself says.
 * A date that is moved is then moved in every text.
 */
export const placeholders = ['title', 'code', 'body', 'opens', 'closes', 'lastPayment', 'correctionOpens', 'correctionCloses', 'cardsFrom',
  'ageOn'] as const
type Placeholder = typeof placeholders[number]

const isPlaceholder = (word: string): word is Placeholder => (placeholders as readonly string[]).includes(word)

function wordsFor({ title, code, body, keyDates }: Notice, name: Placeholder): string {
  switch (name) {
    case 'title':
      return title
    case 'code':
      return code
    case 'body':
      return body.name
    case 'ageOn':
      return spellDate(keyDates.ageOn)
    default:
      return spellInstant(keyDates[name], body.zone)
  }
}

/** A text of the notice as people read it. What is no placeholder stays as it was written. */
export const filledText = (notice: Notice, text: string): string =>
  filledBraces(text, word => isPlaceholder(word) ? wordsFor(notice, word) : undefined)
