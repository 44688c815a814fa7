import type { LetterAct, NoticeLetter } from '../notice/schema'

/** What the office's own text of a letter may name in braces, of anybody: `usual` is what the letter says where the office has no text of its own. */
const common = ['name', 'number', 'examination', 'body', 'closes', 'lastPayment', 'cardsFrom', 'usual'] as const
/** What only some letters know. */
const more: Partial<Record<LetterAct, readonly string[]>> = { 'payment-settled': ['amount'], 'refund-sent': ['amount'], 'remind': ['until'], 'decide-request': ['request'] }
export const letterPlaceholders = (act: LetterAct): readonly string[] => [...common, ...more[act] ?? []]

const named = /\{([^{}]*)\}/g
/** Words in braces that a letter of this act does not know, and braces that stand alone. */
export function unknownInLetter(act: LetterAct, text: string): string[] {
  const known = letterPlaceholders(act)
  const alone = text.replace(named, '').match(/[{}]/g) ?? []
  return [...new Set([...[...text.matchAll(named)].flatMap(([whole, word = '']) => known.includes(word) ? [] : [whole]), ...alone])]
}

export type LetterValues = Readonly<Record<string, string>>
const filled = (text: string, values: LetterValues) => text.replace(named, (whole, word: string) => values[word] ?? whole)

/** The letter in the office's own words; to a telephone its short text, where it has one. */
export const ownLetter = ({ subject, text, short }: NoticeLetter, values: LetterValues, toTelephone: boolean): { subject: string, body: string } =>
  ({ subject: filled(subject, values), body: filled(toTelephone && short ? short : text, values) })
