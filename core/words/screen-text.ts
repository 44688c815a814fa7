import type { Language, ScreenKey } from './language'
import { formatMessage, type MessageParameters } from './message'

/** One sentence of a screen. */
export function screenText(language: Language, key: ScreenKey, parameters: MessageParameters = {}): string {
  const dot = key.indexOf('.')
  const area: Readonly<Record<string, string>> = language.screens[key.slice(0, dot) as keyof Language['screens']]
  return formatMessage(language.locale, area[key.slice(dot + 1)] ?? key, parameters)
}
