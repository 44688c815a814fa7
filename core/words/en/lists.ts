/** Alternatives as people read them: "a", "a or b", "a, b or c". */
export function oneOf(list: readonly string[]): string {
  return list.length < 2 ? list.join('') : `${list.slice(0, -1).join(', ')} or ${list[list.length - 1]}`
}

/** Names of file formats, as alternatives. */
export const formatWords = (formats: readonly string[]) => oneOf(formats.map(format => format.toUpperCase()))
