/** The state that a record tells of, as short lines `name: value`: nested parts by their path, hashes cut to what an eye compares. */
export function recordPairs(value: unknown, path = ''): [string, string][] {
  if (value === null || value === undefined) return path === '' ? [] : [[path, '–']]
  if (Array.isArray(value)) return [[path, value.map(spellMember).join('; ') || '–']]
  if (typeof value === 'object') return Object.entries(value).flatMap(([key, inner]) => recordPairs(inner, path === '' ? key : `${path}, ${key}`))
  return [[path, spellMember(value)]]
}

function spellMember(value: unknown): string {
  if (typeof value === 'object' && value !== null) return Object.values(value).map(String).filter(text => text !== '').join(' ')
  return String(value).replace(/\b([0-9a-f]{12})[0-9a-f]{52}\b/g, '$1…')
}

/** What differs between two states, a line each; what is only in the first is not told. */
export function recordChanges(before: unknown, after: unknown): string[] {
  const old = new Map(recordPairs(before))
  return recordPairs(after).filter(([name, value]) => old.get(name) !== value)
    .map(([name, value]) => old.has(name) && old.get(name) !== '–' ? `${name}: ${old.get(name)} → ${value}` : `${name}: ${value}`)
}
