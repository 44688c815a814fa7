import type { Relaxation, Rule } from './rules'

/** The subrules of a rule, itself first. */
export const rulesWithin = (rule: Rule): Rule[] => rulesBelow(rule, '').map(below => below.rule)

/** The same, each with the place where it stands below that of the first (JSON Pointer). */
export function rulesBelow(rule: Rule, at: string): { rule: Rule, at: string }[] {
  const here = { rule, at }
  switch (rule.kind) {
    case 'all':
    case 'any':
      return [here, ...rule.rules.flatMap((inner, i) => rulesBelow(inner, `${at}/rules/${i}`))]
    case 'not':
      return [here, ...rulesBelow(rule.rule, `${at}/rule`)]
    case 'when':
      return [here, ...rulesBelow(rule.then, `${at}/then`), ...(rule.otherwise ? rulesBelow(rule.otherwise, `${at}/otherwise`) : [])]
    default:
      return [here]
  }
}

/**
 * What eases the bounds of a rule, each with the place where it stands below the rule's (JSON Pointer); of ages the least one may be
 * lowered for some.
 */
export function easingsOf(rule: Rule): { relaxation: Relaxation, at: string, lowers: boolean }[] {
  const below = (list: readonly Relaxation[], key: 'relaxations' | 'lowered') =>
    list.map((relaxation, i) => ({ relaxation, at: `/${key}/${i}`, lowers: key === 'lowered' }))
  return 'relaxations' in rule
    ? [...below(rule.relaxations, 'relaxations'), ...below(rule.kind === 'age' ? rule.lowered ?? [] : [], 'lowered')]
    : []
}
