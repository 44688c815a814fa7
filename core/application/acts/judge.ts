import { may, rolesWith, type Relation } from '../../access/permissions'
import type { Principal } from '../../access/principal'
import type { Notice } from '../../notice/schema'
import type { RefusalReason } from '../../refusal/codes'
import { periodRefusal } from './dates'
import { feeActs } from './fees'
import { because } from './guards'
import { correctionsOpen } from '../corrections'
import { actIds, type ActFacts, type ActId } from './rule'
import { actRule } from './table'

/** Fewest characters of a reason. */
export const reasonLeast = 3

/** Whether an act can be done now, and what it asks for. */
export interface ActStanding {
  act: ActId
  /** Why it cannot be done; null when it can. */
  refusal: RefusalReason | null
  /** The date of the notice that stands against it; an officer may go on with a written reason. */
  outsideDates: RefusalReason | null
  needsReason: boolean
  needsSecond: boolean
  isFinal: boolean
}

/** Why somebody may not do an act, whatever the application's state. */
export function accessRefusal(
  principal: Principal,
  permission: Parameters<typeof may>[1],
  relations: readonly Relation[],
): RefusalReason | null {
  if (may(principal, permission, relations)) return null
  if (principal.kind === 'anybody') return { code: 'session.none', parameters: {} }
  if (principal.needsFactor) return { code: 'access.second-factor', parameters: {} }
  if (principal.kind !== 'staff') return { code: 'access.relation', parameters: { permission } }
  return {
    code: 'access.role',
    parameters: { held: principal.roles.join(', ') || '–', permission, roles: rolesWith(permission).join(', ') || '–' },
  }
}

/** One act, judged for somebody, an application and a moment: what buttons, routes, jobs and bulk acts all ask. */
export function judgeAct(
  act: ActId,
  principal: Principal,
  relations: readonly Relation[],
  facts: ActFacts,
  notice: Notice,
  at: Date,
): ActStanding {
  const rule = actRule(act)
  const outside = rule.period
    ? periodRefusal(notice, rule.period, act === 'begin' || act === 'submit' ? counted(principal, facts, at) : at, facts.openUntil)
    : outsideOfEdit(act, principal, facts, notice, at) ?? outsideOfCorrections(act, principal, facts, notice, at)
  const access = accessRefusal(principal, rule.permission, relations)
  return {
    act,
    refusal: access ?? released(act, facts) ?? rule.refuse(facts) ?? rule.refusePerson?.(principal, facts)
      ?? (outside && !may(principal, 'dates.override') ? outside : null),
    outsideDates: outside,
    needsReason: rule.needsReason === true || rule.asksWhy?.(principal, facts) === true,
    needsSecond: needsSecond(act, notice),
    isFinal: rule.isFinal === true,
  }
}

// What is to be erased is not worked on any more; money that comes in all the same is always booked.
function released(act: ActId, facts: ActFacts): RefusalReason | null {
  return facts.isReleased && act !== 'keep-data' && !(act in feeActs) ? because('act.data-released', facts) : null
}

// What the notice lets nobody correct now an officer may correct all the same, with a reason.
function outsideOfCorrections(act: ActId, principal: Principal, facts: ActFacts, notice: Notice, at: Date): RefusalReason | null {
  if ((act !== 'ask-correction' && act !== 'add-to-correction') || correctionsOpen(notice, principal, at).length > 0) return null
  return { code: 'dates.no-correction', parameters: { number: facts.number } }
}

// What is typed into a draft counts until the close, into a correction until its own last moment.
function outsideOfEdit(
  act: ActId,
  principal: Principal,
  { tracks, openUntil, receivedAt }: ActFacts,
  notice: Notice,
  at: Date,
): RefusalReason | null {
  if (act !== 'save-answers' && act !== 'add-file' && act !== 'hand-in-correction') return null
  if (tracks.form === 'correcting') {
    return openUntil === null || at < openUntil
      ? null
      : periodRefusal(notice, 'corrections', at, openUntil) ?? { code: 'dates.closed', parameters: { closes: '' } }
  }
  return periodRefusal(notice, 'applications', counted(principal, { receivedAt }, at), openUntil)
}

// A paper form counts from when it came in, however late the office keys and hands it in; whoever has it otherwise, and what is done with
// it afterwards, goes by the present moment.
const counted = ({ kind }: Principal, { receivedAt }: Pick<ActFacts, 'receivedAt'>, at: Date) =>
  kind === 'candidate' || kind === 'institution' ? at : receivedAt ?? at

/** Whether a second person must confirm: always, or because the notice says so. */
export function needsSecond(act: ActId, notice: Pick<Notice, 'secondPerson'>): boolean {
  return actRule(act).needsSecond === true || notice.secondPerson.some(marked => marked === act)
}

/** All acts on one application as they stand for somebody now. */
export function judgeActs(principal: Principal, relations: readonly Relation[], facts: ActFacts, notice: Notice, at: Date): ActStanding[] {
  return actIds.map(act => judgeAct(act, principal, relations, facts, notice, at))
}
