import { found, pointer, type NoticeFinding } from '../finding'
import type { Notice } from '../schema'

/** What is wanted of others: named twice, asked twice, or in time for nothing. */
export function endorsementFindings({ endorsements = [], keyDates }: Notice): NoticeFinding[] {
  return endorsements.flatMap((rule, i) => {
    const at = (...steps: (string | number)[]) => pointer('endorsements', i, ...steps)
    const until = rule.until === undefined ? NaN : Date.parse(rule.until)
    const order = (earlier: string, later: string, before: string, after: string) =>
      found('dates.order', at('until'), { earlier, later, before, after })
    return [
      ...endorsements.findIndex(one => one.id === rule.id) < i ? [found('id.twice', at('id'), { id: rule.id })] : [],
      ...rule.questions.flatMap((question, k) =>
        rule.questions.findIndex(one => one.id === question.id) < k
          ? [found('id.twice', at('questions', k, 'id'), { id: question.id })]
          : []
      ),
      // Nobody can be asked before the form is open, and what comes after cards go out holds nothing any more.
      ...until <= Date.parse(keyDates.opens) ? [order('opens', 'until', keyDates.opens, rule.until ?? '')] : [],
      ...until > Date.parse(keyDates.cardsFrom) ? [order('until', 'cardsFrom', rule.until ?? '', keyDates.cardsFrom)] : [],
    ]
  })
}
