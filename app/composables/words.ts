import { languageOf, screenText, type Language, type ScreenKey } from '~~/core/words/language'
import type { Notice } from '~~/core/notice/schema'
import type { MessageParameters } from '~~/core/words/message'

// One page has one language from its loading on: whoever changes it loads the page anew.
let language: Language | null = null

/** All words of the language that this browser reads. */
export const useWords = (): Language => language ??= languageOf(/(?:^|; )lucid-language=([\w-]+)/.exec(document.cookie)?.[1])

/** One sentence of a screen. Throws when something that the sentence names is not given. */
export const say = (key: ScreenKey, parameters?: MessageParameters): string => screenText(useWords(), key, parameters)

/** The title of a page as the browser shows it. */
export const titled = (title: string): string => `${title} · Lucid Roster`

/** A whole number as the language writes it. */
export const countText = (n: number): string => n.toLocaleString(useWords().locale)

/** The moments of a notice in their order, each with its title. */
export function keyDateLines({ opens, closes, lastPayment, correctionOpens, correctionCloses, cardsFrom }: Notice['keyDates']): [string, string][] {
  return [
    [say('desk.applicationsOpen'), opens], [say('desk.applicationsClose'), closes], [say('desk.lastMomentToPay'), lastPayment],
    [say('desk.correctionsOpen'), correctionOpens], [say('desk.correctionsClose'), correctionCloses], [say('desk.cardsGoOut'), cardsFrom],
  ]
}
