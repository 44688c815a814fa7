import type { EndorsementRule, Notice } from '../notice/schema'
import { conditionHolds, liveAnswers, type Answers } from './answers'

/**
 * What somebody other than the candidate has to say: a guardian's consent, a recommendation. Who is asked has no account: they answer by a
 * link that is sent to them.
 */

export const endorsementStates = ['asked', 'given', 'declined', 'taken back'] as const
export type EndorsementState = typeof endorsementStates[number]
/** How many stand in each state, by the rule's id; kept beside the answers, so that whoever computes with an application has it at hand. */
export type Endorsed = Record<string, { asked: number, given: number, declined: number }>

/** Times that one application may ask for one thing, those taken back counted: letters to strangers are not for play. */
export const asksAtMost = 10

export interface WantedEndorsement {
  rule: EndorsementRule
  /** How many have to be given still, and for how many of those nobody was asked. */
  lacking: number
  unasked: number
}

/** What the notice wants of others for somebody with these answers, in its order. */
export function endorsementsWanted(notice: Notice, counted: Answers, endorsed: Endorsed): WantedEndorsement[] {
  const rules = notice.endorsements ?? []
  if (rules.length === 0) return []
  const live = liveAnswers(notice, counted)
  return rules.filter(rule => !rule.when || conditionHolds(rule.when, live) === true).map((rule) => {
    const { asked = 0, given = 0 } = endorsed[rule.id] ?? {}
    const lacking = Math.max(0, rule.count - given)
    return { rule, lacking, unasked: Math.max(0, lacking - asked) }
  })
}

/** Those that keep a form from being handed in, or a case from being accepted. */
export function endorsementsLacking(
  notice: Notice,
  counted: Answers,
  endorsed: Endorsed,
  holding: 'submission' | 'decision',
): WantedEndorsement[] {
  // What has to be there with the form has to be there when it is decided on, too.
  return endorsementsWanted(notice, counted, endorsed).filter(({ rule, lacking }) =>
    lacking > 0 && (rule.holds === holding || (holding === 'decision' && rule.holds === 'submission'))
  )
}

/** Whether it may still be given. */
export const isEndorsementOpen = ({ until }: Pick<EndorsementRule, 'until'>, now: Date): boolean =>
  until === undefined || now < new Date(until)

/** The counts after one went from a state to another; null where there was none before. */
export function endorsedAfter(endorsed: Endorsed, rule: string, from: EndorsementState | null, to: EndorsementState): Endorsed {
  const counts = { asked: 0, given: 0, declined: 0, ...endorsed[rule] }
  if (from !== null && from !== 'taken back') counts[from] = Math.max(0, counts[from] - 1)
  if (to !== 'taken back') counts[to] += 1
  return { ...endorsed, [rule]: counts }
}
