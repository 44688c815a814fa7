import { filledBraces, unknownInBraces } from '../words/braces'

/** What a letter to many may name of each of them. */
export const placeholders = ['name', 'number', 'examination'] as const
export type Placeholder = typeof placeholders[number]

/** What stands in braces and is no placeholder; a brace that stands alone counts as one. Empty for a text that can be sent. */
export const unknownPlaceholders = (text: string): string[] => unknownInBraces(text, placeholders)

/** A text with each placeholder put in its place. */
export const filledIn = (text: string, values: Readonly<Record<Placeholder, string>>): string =>
  filledBraces(text, word => new Map<string, string>(Object.entries(values)).get(word))
