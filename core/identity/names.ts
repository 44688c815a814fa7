/** Text as stored: Unicode NFC, outer blanks removed, inner runs of blanks made one. Letters are never changed. */
export function storedText(typed: string): string {
  return typed.normalize('NFC').trim().replace(/\s+/gu, ' ')
}

/**
 * The key names are compared and searched by: no accents, no case, no punctuation, single blanks.
 * Derived from the name, never shown in its place. Marks that carry vowels in Indic scripts are kept, since
 * dropping them would make different names equal; only the combining accents of U+0300 to U+036F go.
 */
export function nameKey(name: string): string {
  return name.normalize('NFKD').replace(/[\u0300-\u036f]/gu, '').toLowerCase().replace(/[^\p{L}\p{M}\p{N}]+/gu, ' ').trim()
}

export type NameDifference = 'same' | 'spelling' | 'order' | 'initials' | 'different'

/**
 * How two writings of one person's name relate. `spelling` is case, accent, hyphen or spacing; `order` the same words
 * in another order; `initials` one side shortens words of the other to their first letters. Everything else is
 * `different`. Only a person decides what a difference means; none of these blocks anything.
 */
export function compareNames(first: string, second: string): NameDifference {
  if (storedText(first) === storedText(second)) return 'same'
  const [a, b] = [nameKey(first), nameKey(second)]
  if (a.replaceAll(' ', '') === b.replaceAll(' ', '')) return 'spelling'
  const [wordsA, wordsB] = [a.split(' ').sort(), b.split(' ').sort()]
  if (wordsA.join(' ') === wordsB.join(' ')) return 'order'
  return matchWithInitials(wordsA, wordsB) ? 'initials' : 'different'
}

function matchWithInitials(first: string[], second: string[]): boolean {
  if (first.length !== second.length) return false
  const left = [...second]
  const short = (word: string) => [...word].length === 1
  // Whole words pair first, so that an initial cannot take a word that its full form needs.
  for (const word of [...first].sort((a, b) => b.length - a.length)) {
    const exact = left.indexOf(word)
    const near = left.findIndex(other => (short(word) || short(other)) && word[0] === other[0])
    const at = exact >= 0 ? exact : near
    if (at < 0) return false
    left.splice(at, 1)
  }
  return true
}
