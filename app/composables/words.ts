import { candidateWords } from '~~/core/words/en/candidates'
import { joinWords } from '~~/core/words/join'
import type { Language, ScreenKey } from '~~/core/words/language'
import { pseudo } from '~~/core/words/pseudo'
import { screenText } from '~~/core/words/screen-text'
import type { Notice } from '~~/core/notice/schema'
import type { MessageParameters } from '~~/core/words/message'

// One page has one language from its loading on: whoever changes it loads the page anew.
let language: Language | null = null
let isWhole = false
const isMadeUp = () => /(?:^|; )lucid-language=en-XA\b/.test(document.cookie)
const spoken = <L extends object>(words: L): L => isMadeUp() ? pseudo(words) : words

/**
 * All words of the language that this browser reads. Those of the office are there for its pages only, which wait for `loadOfficeWords`.
 */
export const useWords = (): Language =>
  language ??= {
    ...spoken(candidateWords),
    code: isMadeUp() ? 'en-XA' : candidateWords.code,
    locale: candidateWords.locale,
  } as unknown as Language

/** Takes up more words than this page began with. */
export function takeWords(words: { screens: object }): void {
  language = joinWords(useWords(), spoken(words)) as Language
}

/** Brings the words of the office, which candidates on a slow line need not wait for. */
export async function loadOfficeWords(): Promise<void> {
  if (isWhole) return
  const [{ officeWords }] = await Promise.all([import('~~/core/words/en/office'), import('~/words/later')])
  takeWords(officeWords)
  isWhole = true
}

/** One sentence of a screen. Throws when something that the sentence names is not given. */
export const say = (key: ScreenKey, parameters?: MessageParameters): string => screenText(useWords(), key, parameters)

/** The title of a page as the browser shows it. */
export const titled = (title: string): string => `${title} · Lucid Roster`

/** A whole number as the language writes it. */
export const countText = (n: number): string => n.toLocaleString(useWords().locale)

/** A share as the language writes it, in percent with one decimal. */
export const shareText = (share: number): string =>
  share.toLocaleString(useWords().locale, { style: 'percent', minimumFractionDigits: 1, maximumFractionDigits: 1 })

/** The moments of a notice in their order, each with its title. */
export function keyDateLines({ opens, closes, lastPayment, correctionOpens, correctionCloses, cardsFrom }: Notice['keyDates']): [string,
  string][] {
  return [
    [say('desk.applicationsOpen'), opens],
    [say('desk.applicationsClose'), closes],
    [say('desk.lastMomentToPay'), lastPayment],
    [say('desk.correctionsOpen'), correctionOpens],
    [say('desk.correctionsClose'), correctionCloses],
    [say('desk.cardsGoOut'), cardsFrom],
  ]
}
