import { IntlMessageFormat } from 'intl-messageformat'

/** What a message is given; nothing stands for an empty text. */
export type MessageParameters = Readonly<Record<string, string | number | null | undefined>>

/** Messages in ICU syntax, with plurals; each is compiled once. Throws when a parameter that the message names is not given. */
const compiled = new Map<string, IntlMessageFormat>()

export function formatMessage(locale: string, message: string, parameters: MessageParameters): string {
  const key = `${locale}\0${message}`
  let format = compiled.get(key)
  if (!format) {
    format = new IntlMessageFormat(message, locale, undefined, { ignoreTag: true })
    compiled.set(key, format)
  }
  return String(format.format(parameters))
}

/** The names that a message asks for, sorted: what all languages must have alike. */
export function placeholdersOf(message: string): string[] {
  type Node = ReturnType<IntlMessageFormat['getAst']>[number]
  const names = (nodes: readonly Node[]): string[] =>
    nodes.flatMap(node => [
      ...('value' in node && node.type !== 0 ? [String(node.value)] : []),
      ...('options' in node ? Object.values(node.options).flatMap(option => names(option.value)) : []),
    ])
  return [...new Set(names(new IntlMessageFormat(message, 'en', undefined, { ignoreTag: true }).getAst()))].sort()
}
