/** Texts with words in braces, such as `{name}`, in whose place something else is read. */
const named = /\{([^{}]*)\}/g

/** Every word in braces of a text, braces included, in its order. */
export const wordsInBraces = (text: string): string[] => [...text.matchAll(named)].map(([whole]) => whole)

/** What stands in braces and is not known, each once; a brace that stands alone counts as one. Empty for a text that reads well. */
export function unknownInBraces(text: string, known: readonly string[]): string[] {
  const rest = text.replace(named, '')
  return [
    ...new Set([...wordsInBraces(text).filter(whole => !known.includes(whole.slice(1, -1))),
      ...['{', '}'].filter(brace => rest.includes(brace))]),
  ]
}

/** A text with what is known put in its place; the rest stays as it was written. */
export const filledBraces = (text: string, valueOf: (word: string) => string | undefined): string =>
  text.replace(named, (whole, word: string) => valueOf(word) ?? whole)
