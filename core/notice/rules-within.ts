import type { Rule } from './rules'

/** The subrules of a rule, itself first. */
export const rulesWithin = (rule: Rule): Rule[] => rulesBelow(rule, '').map(below => below.rule)

/** The same, each with the place where it stands below that of the first (JSON Pointer). */
export function rulesBelow(rule: Rule, at: string): { rule: Rule, at: string }[] {
  const here = { rule, at }
  switch (rule.kind) {
    case 'all': case 'any': return [here, ...rule.rules.flatMap((inner, i) => rulesBelow(inner, `${at}/rules/${i}`))]
    case 'not': return [here, ...rulesBelow(rule.rule, `${at}/rule`)]
    case 'when': return [here, ...rulesBelow(rule.then, `${at}/then`), ...(rule.otherwise ? rulesBelow(rule.otherwise, `${at}/otherwise`) : [])]
    default: return [here]
  }
}
