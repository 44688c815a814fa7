import type { Condition, ConditionLeaf } from './questions'

/** The leaves of a condition, in their order. */
export function conditionLeaves(condition: Condition | undefined): ConditionLeaf[] {
  if (!condition) return []
  if ('question' in condition) return [condition]
  if ('not' in condition) return conditionLeaves(condition.not)
  return ('all' in condition ? condition.all : condition.any).flatMap(conditionLeaves)
}
