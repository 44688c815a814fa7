/** What a letter to many may name of each of them. */
export const placeholders = ['name', 'number', 'examination'] as const
export type Placeholder = typeof placeholders[number]

const named = /\{([^{}]*)\}/g
const isPlaceholder = (name: string): name is Placeholder => (placeholders as readonly string[]).includes(name)

/** What stands in braces and is no placeholder; a brace that stands alone counts as one. Empty for a text that can be sent. */
export function unknownPlaceholders(text: string): string[] {
  const names = [...text.matchAll(named)].flatMap(([whole, name = '']) => isPlaceholder(name) ? [] : [whole])
  const rest = text.replace(named, '')
  return [...new Set([...names, ...['{', '}'].filter(brace => rest.includes(brace))])]
}

/** A text with each placeholder put in its place. */
export const filledIn = (text: string, values: Readonly<Record<Placeholder, string>>): string => text.replace(named, (whole, name: string) => isPlaceholder(name) ? values[name] : whole)
