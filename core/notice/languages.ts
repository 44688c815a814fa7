import type { Notice } from './schema'

/**
 * A language in which people can read the notice, by its tag (BCP 47), and its texts there. Each stands by what it translates, so that a
 * text that is changed or moved never reads as something else.
 */
export interface Translation {
  language: string
  texts: readonly { text: string, as: string }[]
}

/** The language in which a notice is written where it does not say. */
const usual = 'en'
export const writtenIn = ({ language }: Pick<Notice, 'language'>): string => language ?? usual
/** Every language that people can choose, the one it is written in first. */
export const languagesOf =
  (notice: Pick<Notice, 'language' | 'translations'>): string[] => [writtenIn(notice),
    ...notice.translations?.map(one => one.language) ?? []]

/** The name of a language in itself, such as `français`; the tag where nobody has one. */
export const languageName = (tag: string): string =>
  isLanguageTag(tag) ? new Intl.DisplayNames([tag], { type: 'language' }).of(tag) ?? tag : tag

/** Whether this is a well-formed tag (BCP 47, RFC 5646). */
export function isLanguageTag(tag: string): boolean {
  try {
    return Intl.getCanonicalLocales(tag).length === 1
  } catch {
    return false
  }
}

/** What the keys of texts are called that people read; what the office alone reads, and names of places and people, stay as they are. */
const readKeys: ReadonlySet<string> = new Set(['title', 'label', 'help', 'shows', 'text', 'declaration', 'summary', 'proof'])
/** The same in letters: elsewhere a subject is what is taught. */
const letterKeys: ReadonlySet<string> = new Set(['subject', 'text', 'short'])
const readLists = new Set(['steps', 'instructions', 'issuedBy'])
const leftAlone = new Set(['body', 'cities', 'allocation', 'expected', 'translations', 'institutions', 'secondPerson'])

function walk(value: unknown, key: string, change: (text: string) => string, keys = readKeys): unknown {
  if (typeof value === 'string') return keys.has(key) ? change(value) : value
  if (Array.isArray(value)) {
    return value.map((one: unknown) => typeof one === 'string' ? (readLists.has(key) ? change(one) : one) : walk(one, key, change, keys))
  }
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).map(([name, inner]) => [
    name,
    leftAlone.has(name) ? inner : walk(inner, name, change, name === 'letters' ? letterKeys : keys),
  ]))
}

/** Every text of the notice that people read, once, in its order. */
export function textsToRead(notice: unknown): string[] {
  const found = new Set<string>()
  walk(notice, '', (text) => {
    if (text.trim() !== '') found.add(text)
    return text
  })
  return [...found]
}

/** The notice as people read it in a language: what is not translated stays as it was written. Its translations are only named. */
export function noticeIn(notice: Notice, language: string | null): Notice {
  const translations = notice.translations?.map(one => ({ language: one.language, texts: [] }))
  const chosen = notice.translations?.find(one => one.language === language)
  const texts = new Map(chosen?.texts.filter(one => one.as.trim() !== '').map(({ text, as }) => [text, as]))
  const read = texts.size === 0 ? notice : walk(notice, '', text => texts.get(text) ?? text) as Notice
  return translations ? { ...read, translations } : read
}
