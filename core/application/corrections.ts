import type { Principal } from '../access/principal'
import type { CorrectionRule, Notice } from '../notice/schema'
import { isOpened } from './acts/opened'

/**
 * Corrections of forms that were submitted. What is to be corrected stands beside the form, which stays as it is, until the correction
 * takes effect: nobody loses a place in the queue, a seat or a card by asking.
 */
export const correctionStates = ['drafting', 'unpaid', 'waiting', 'accepted', 'refused', 'taken back', 'ended'] as const
export type CorrectionState = typeof correctionStates[number]
/** States of a correction that is under way; an application has at most one. */
export const openCorrectionStates = ['drafting', 'unpaid', 'waiting'] as const satisfies readonly CorrectionState[]
export type OpenCorrectionState = typeof openCorrectionStates[number]

export const partyOf = ({ kind }: Pick<Principal, 'kind'>): CorrectionRule['by'][number] =>
  kind === 'candidate' || kind === 'institution' ? kind : 'office'

/** The period of a rule; half open. */
export function correctionPeriod(notice: Pick<Notice, 'keyDates'>, rule: CorrectionRule): { opens: Date, closes: Date } {
  return {
    opens: new Date(rule.opens ?? notice.keyDates.correctionOpens),
    closes: new Date(rule.closes ?? notice.keyDates.correctionCloses),
  }
}

/** The rules by which somebody may correct at a moment. */
export function correctionsOpen(
  notice: Pick<Notice, 'corrections' | 'keyDates'>,
  who: Pick<Principal, 'kind'>,
  at: Date,
): CorrectionRule[] {
  return notice.corrections.filter((rule) => {
    const { opens, closes } = correctionPeriod(notice, rule)
    return rule.by.includes(partyOf(who)) && opens <= at && at < closes
  })
}

/** The rule that an item is corrected by: the first that names it, or that has brought it up by what it changes. */
export const ruleOfItem = (notice: Notice, rules: readonly CorrectionRule[], item: string): CorrectionRule | undefined =>
  rules.find(rule => rule.items.includes(item)) ?? rules.find(rule => isOpened(notice, rule.items, item))

/** The rules by which a party may ever correct. */
export const rulesFor = (notice: Pick<Notice, 'corrections'>, party: CorrectionRule['by'][number]): CorrectionRule[] =>
  notice.corrections.filter(rule => rule.by.includes(party))

/** The rules that some items are corrected by. */
export function rulesOfItems(
  notice: Notice,
  rules: readonly CorrectionRule[],
  items: readonly string[],
): { used: CorrectionRule[], closed: string[] } {
  const ruleOf = (item: string) => ruleOfItem(notice, rules, item)
  return { used: rules.filter(rule => items.some(item => ruleOf(item) === rule)), closed: items.filter(item => !ruleOf(item)) }
}
