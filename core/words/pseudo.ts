const plain = 'abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ'
// Letters of Latin-1 and Latin Extended-A, which every face that prints papers has.
const marked = 'áßçđéſğĥíĵķļµñóþĸřšţúŷŵæýžÁÐÇĎÉŁĞĤÍĴĶĻŊÑÓÞØŘŠŢÚŶŴÆÝŽ'
const marks = new Map([...plain].map((letter, i) => [letter, [...marked][i] ?? letter]))

/** A text with every plain letter marked: still read by people, told by machines from a text that came from elsewhere. */
export const markText = (text: string): string => [...text].map(letter => marks.get(letter) ?? letter).join('')

/** A message in ICU syntax with its texts marked; names of parameters, kinds and choices stay. */
export function markMessage(message: string): string {
  // Levels alternate: 0 is text, 1 inside an argument, 2 text of one of its choices, and so on.
  let level = 0
  let result = ''
  for (const letter of message) {
    if (letter === '}') level -= 1
    result += level % 2 === 0 ? marks.get(letter) ?? letter : letter
    if (letter === '{') level += 1
  }
  return result
}

/**
 * Words of a made-up language out of those of a real one. Messages are marked as messages, so that what is put into them stays; what a
 * function spells is marked as a whole.
 */
export function pseudo<L extends object>(words: L): L {
  return mapTexts(words, markMessage) as L
}

function mapTexts(value: unknown, mark: (text: string) => string): unknown {
  if (typeof value === 'string') return mark(value)
  if (typeof value === 'function') return (...parameters: unknown[]) => mapTexts(value(...parameters), markText)
  if (Array.isArray(value)) return value.map(one => mapTexts(one, mark))
  if (typeof value === 'object' && value !== null) {
    return Object.fromEntries(Object.entries(value).map(([key, one]) => [key, mapTexts(one, mark)]))
  }
  return value
}
