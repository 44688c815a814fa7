import type { LetterAct, NoticeLetter } from '../notice/schema'
import { filledBraces, unknownInBraces } from '../words/braces'

/**
 * What the office's own text of a letter may name in braces, of anybody: `usual` is what the letter says where the office has no text of
 * its own.
 */
const common = ['name', 'number', 'examination', 'body', 'closes', 'lastPayment', 'cardsFrom', 'usual'] as const
/** What only some letters know. */
const more: Partial<Record<LetterAct, readonly string[]>> = {
  'payment-settled': ['amount'],
  'refund-sent': ['amount'],
  'remind': ['until'],
  'decide-request': ['request'],
}
export const letterPlaceholders = (act: LetterAct): readonly string[] => [...common, ...more[act] ?? []]

/** Words in braces that a letter of this act does not know, and braces that stand alone. */
export const unknownInLetter = (act: LetterAct, text: string): string[] => unknownInBraces(text, letterPlaceholders(act))

export type LetterValues = ReadonlyMap<string, string>
const filled = (text: string, values: LetterValues) => filledBraces(text, word => values.get(word))

/** The letter in the office's own words; to a telephone its short text, where it has one. */
export const ownLetter = (
  { subject, text, short }: NoticeLetter,
  values: LetterValues,
  toTelephone: boolean,
): { subject: string, body: string } => ({ subject: filled(subject, values), body: filled(toTelephone && short ? short : text, values) })
