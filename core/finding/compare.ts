import type { Finding } from './finding'

/** One check on two versions of the same thing; null where it was not made. */
export interface Change {
  code: string
  before: Finding | null
  after: Finding | null
}

/**
 * The checks whose verdict differs between two versions, and of those not in order in either the ones whose value moved. In the order of
 * the newer one; what is no longer checked comes last.
 */
export function changesBetween(before: readonly Finding[], after: readonly Finding[]): Change[] {
  const earlier = new Map(before.map(finding => [finding.code, finding]))
  const later = new Map(after.map(finding => [finding.code, finding]))
  return [...new Set([...later.keys(), ...earlier.keys()])].map((code): Change => ({
    code,
    before: earlier.get(code) ?? null,
    after: later.get(code) ?? null,
  })).filter(({ before: b, after: a }) => b?.verdict !== a?.verdict || (b?.value !== a?.value && a?.verdict !== 'pass'))
}
