import { IntlMessageFormat } from 'intl-messageformat'

/** Messages in ICU syntax, with plurals; each is compiled once. Throws when a parameter that the message names is not given. */
const compiled = new Map<string, IntlMessageFormat>()

export function formatMessage(locale: string, message: string, parameters: Readonly<Record<string, string | number>>): string {
  const key = `${locale}\0${message}`
  let format = compiled.get(key)
  if (!format) {
    format = new IntlMessageFormat(message, locale, undefined, { ignoreTag: true })
    compiled.set(key, format)
  }
  return String(format.format(parameters))
}
