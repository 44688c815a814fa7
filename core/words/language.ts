import { english } from './en'
import { pseudo } from './pseudo'

type Widened<T> = T extends string ? string : T extends (...parameters: never[]) => unknown ? T : { readonly [K in keyof T]: Widened<T[K]> }

/**
 * All words of one language: the sentences of the screens and what spells findings, acts, refusals and papers. A language has what English
 * has, or it does not compile.
 */
export type Language = Widened<typeof english>

type Screens = typeof english.screens
/** A sentence of a screen by its area and key: `people.inviteSomebody`. */
export type ScreenKey = { [A in keyof Screens]: `${A}.${keyof Screens[A] & string}` }[keyof Screens]

/** What can be chosen. `en-XA` is the made-up language that tests walk through: every word that comes from here is marked in it. */
const languages: Record<string, () => Language> = {
  'en': () => english,
  'en-XA': () => ({ ...pseudo(english), code: 'en-XA', locale: english.locale }),
}
export const languageCodes: readonly string[] = Object.keys(languages)

const made = new Map<string, Language>()

/** The words of a language by its code; English for one that is not shipped. */
export function languageOf(code: string | null | undefined): Language {
  const known = code && Object.hasOwn(languages, code) ? code : 'en'
  let language = made.get(known)
  if (!language) {
    language = (languages[known] ?? (() => english))()
    made.set(known, language)
  }
  return language
}
