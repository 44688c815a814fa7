import { conditionLeaves } from '../notice/conditions'
import type { Notice, RequestRule } from '../notice/schema'
import type { Session } from '../notice/centre-schema'
import { conditionHolds, isAnswered, liveAnswers, type Answer, type Answers } from './answers'
import type { Tracks } from './tracks'

/** What the office said of a request. `basis` is what it was decided on: other answers there make it fall. */
export type RequestWord = 'granted' | 'declined'
export interface RequestDecision {
  word: RequestWord
  basis: string
}
/** The newest decision on each request of one application, by the request's id. */
export type RequestDecisions = Record<string, RequestDecision>

export interface MadeRequest {
  rule: RequestRule
  /** Null while nobody has decided. */
  word: RequestWord | null
}

// The office's word stands among the answers that count, under a key that no question can have: whatever computes with answers sees it.
export const keyOf = (id: string) => `request:${id}`

/** The answers of a sheet with what the office said of its requests. What was typed stays as it is. */
export function withDecisions(notice: Notice, answers: Answers, decisions: RequestDecisions): Answers {
  const words = Object.entries(decisionsThatHold(notice, answers, decisions)).map(([id, { word }]) => [keyOf(id), word])
  return words.length === 0 ? answers : { ...answers, ...Object.fromEntries(words) as Answers }
}

/** The decisions that still hold for some answers, once some papers were replaced: those that rested on others fall. */
export function decisionsThatHold(
  notice: Notice,
  answers: Answers,
  decisions: RequestDecisions,
  replaced: readonly string[] = [],
): RequestDecisions {
  return Object.fromEntries(notice.requests.flatMap((rule) => {
    const decision = decisions[rule.id]
    return decision && decision.basis === basisOf(notice, rule, answers) && !rule.papers.some(paper => replaced.includes(paper))
      ? [[rule.id, decision] as const]
      : []
  }))
}

/** What a request rests on, as one text: the answers by which it is asked, and those of the questions named with it. */
export function basisOf(notice: Notice, rule: RequestRule, answers: Answers): string {
  const questions = [...new Set([...conditionLeaves(rule.when).map(leaf => leaf.question), ...rule.about])].sort()
  const live = liveAnswers(notice, answers)
  return JSON.stringify(questions.map(question => live.answers[question] ?? ''))
}

/** The requests that answers make, in the notice's order, each with the office's word where `withDecisions` has put it. */
export function requestsMade(notice: Notice, counted: Answers): MadeRequest[] {
  if (notice.requests.length === 0) return []
  const live = liveAnswers(notice, counted)
  return notice.requests.filter(rule => conditionHolds(rule.when, live) === true).map(rule => ({ rule, word: wordOf(counted, rule.id) }))
}

/** The office's word on a request; null where there is none. Says nothing of whether it is made. */
export function wordOf(counted: Answers, id: string): RequestWord | null {
  const word = counted[keyOf(id)]
  return word === 'granted' || word === 'declined' ? word : null
}

/** The requests that wait for the office's word. */
export const openRequests = (notice: Notice, counted: Answers): RequestRule[] =>
  requestsMade(notice, counted).filter(({ word }) => word === null).map(({ rule }) => rule)

/** The requests that are granted. */
export const grantedRequests = (notice: Notice, counted: Answers): RequestRule[] =>
  requestsMade(notice, counted).filter(({ word }) => word === 'granted').map(({ rule }) => rule)

/** Whether a person has to sit on a step-free seat: by their answers, or by what was granted. */
export function needsStepFree(notice: Notice, counted: Answers): boolean {
  return conditionHolds(notice.accessibleSeatWhen, liveAnswers(notice, counted)) === true
    || grantedRequests(notice, counted).some(rule => 'stepFree' in rule && rule.stepFree)
}

/** Until when papers may follow because that was asked for and not declined; by the paper's id, the latest where there are several. */
export function followingPapers(notice: Notice, counted: Answers): ReadonlyMap<string, string> {
  const until = new Map<string, string>()
  for (const { rule, word } of requestsMade(notice, counted)) {
    if (rule.kind !== 'late proof' || word === 'declined') continue
    for (const paper of rule.follow) if (Date.parse(until.get(paper) ?? rule.until) <= Date.parse(rule.until)) until.set(paper, rule.until)
  }
  return until
}

/** Minutes of compensatory time for each hour of a session; 0 where none was granted, the most where several were. */
export const minutesAnHour = (notice: Notice, counted: Answers): number =>
  Math.max(0, ...grantedRequests(notice, counted).map(rule => rule.kind === 'time' ? rule.minutesAnHour : 0))

/**
 * The minutes that somebody has more in a session: so many for each hour, a part of an hour counts in part, rounded up to the whole minute
 * (common practice, no source).
 */
export function extraMinutes({ starts, ends }: Pick<Session, 'starts' | 'ends'>, anHour: number): number {
  return Math.ceil((minutesOf(ends) - minutesOf(starts)) * anHour / 60)
}

/** A clock time so many minutes later, on the same day. */
export function clockAfter(time: string, minutes: number): string {
  const at = minutesOf(time) + minutes
  return `${String(Math.floor(at / 60)).padStart(2, '0')}:${String(at % 60).padStart(2, '0')}`
}

function minutesOf(time: string): number {
  const [hours = 0, minutes = 0] = time.split(':').map(Number)
  return hours * 60 + minutes
}

/** Why the office cannot decide on requests now; null when it can. `isDecided` where it has a word already. */
export function requestLock(
  tracks: Pick<Tracks, 'form' | 'scrutiny' | 'placement'>,
  isDecided: boolean,
): 'form' | 'refused' | 'published' | null {
  if (tracks.form !== 'submitted') return 'form'
  if (tracks.scrutiny === 'refused') return 'refused'
  return isDecided && (tracks.placement === 'published' || tracks.placement === 'moved') ? 'published' : null
}

/** What is said of a request beside it: the answers that it rests on, as typed. */
export const saidOf = (rule: RequestRule, answers: Answers): { question: string, answer: Answer }[] =>
  rule.about.filter(question => isAnswered(answers, question)).map(question => ({ question, answer: answers[question] ?? '' }))
