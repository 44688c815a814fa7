import { filledText } from './placeholders'
import { nameKey } from '../identity/names'
import type { SignedBy } from './asked'
import type { Notice, Term } from './schema'

/** What candidates accept in so many words: the texts of a notice, and its declaration last. */
export interface TextToAccept {
  id: string
  /** None for the declaration, which the notice gives no title. */
  title: string
  text: string
  asked: Term['asked']
  signed: SignedBy
}

/** How the declaration is called among the texts. */
export const declarationId = 'declaration'

/** The texts that are accepted, as people read them in the notice that is given. */
export const textsToAccept = (notice: Notice): TextToAccept[] =>
  [
    ...notice.terms ?? [],
    { id: declarationId, title: '', text: notice.declaration, asked: 'at the end' as const, signed: notice.declarationSigned },
  ].map(one => ({ ...one, text: filledText(notice, one.text), signed: one.signed ?? 'ticked' }))

/** The first letters of a name's words, without accents; a word with a hyphen may count as one or as two: TO and TOA. */
const initialsOf = (name: string): string[] =>
  [name.split(/\s+/u), nameKey(name).split(' ')].map(words => words.map(word => [...letters(word)][0] ?? '').join(''))
const letters = (text: string) => nameKey(text).replaceAll(' ', '').toUpperCase()

/** Whether what was typed is what a text is signed by: the name itself but for case, accents and blanks, or its initials. */
export function isSigned(signed: SignedBy, name: string, typed: string): boolean {
  if (signed === 'ticked') return true
  if (letters(name) === '') return false
  return signed === 'signed' ? letters(typed) === letters(name) : initialsOf(name).includes(letters(typed))
}
