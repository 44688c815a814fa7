import { compareNames } from '../identity/names'
import type { Finding } from '../finding/finding'
import type { Condition } from '../notice/questions'
import type { Notice } from '../notice/schema'
import type { CalendarDate } from '../calendar/calendar-date'
import { instantInZone } from '../calendar/zone'
import {
  cityOfPostalCode,
  conditionHolds,
  isAnswered,
  listAnswer,
  liveAnswers,
  liveSheet,
  printedName,
  textAnswer,
  type Answers,
} from './answers'
import { needsStepFree } from './requests'
import { checkAnswer } from './check-answer'

/** Every fault of the sheet, in its order. Empty means complete and well formed. */
export function sheetFaults(notice: Notice, answers: Answers, today: CalendarDate): Finding[] {
  const live = liveSheet(notice, answers)
  return live.asked.flatMap(q => checkAnswer(q, { notice, answers: live.answers, today }))
}

/**
 * Doubts that block nothing but want a look: how the name on the identity proof, and the name as it shall be printed, differ from that on
 * the certificate.
 */
export function sheetDoubts(answers: Answers): Finding[] {
  return ['identityName', 'printedName'].flatMap((about): Finding[] => {
    if (!isAnswered(answers, 'certificateName') || !isAnswered(answers, about)) return []
    const [certificate, other] = [textAnswer(answers, 'certificateName'), textAnswer(answers, about)]
    const difference = compareNames(certificate, other)
    if (difference === 'same') return []
    return [{
      code: `sheet.names.${difference}`,
      about,
      verdict: 'unsure',
      value: null,
      unit: 'none',
      bound: null,
      parameters: { certificate, identity: other, printed: printedName(answers) },
    }]
  })
}

/**
 * What the allocation needs of one application: `held` has bit i set where the notice's restriction i holds for the person, `kept` where
 * its seats i are kept for them.
 */
export interface Placeable {
  home: string
  choices: string[]
  needsAccessible: boolean
  held: number
  kept: number
}

/** Home city, ranked choices and need, or null when the sheet does not give them. */
export function placeableOf(notice: Notice, answers: Answers): Placeable | null {
  const home = cityOfPostalCode(notice, textAnswer(answers, 'postalCode'))
  const choices = listAnswer(answers, 'cities')
  if (!home || choices.length === 0) return null
  const live = liveAnswers(notice, answers)
  const bitsOf = (all: readonly { when: Condition }[]) =>
    all.reduce((bits, { when }, i) => bits | (conditionHolds(when, live) === true ? 1 << i : 0), 0)
  const { restrictions, kept } = notice.allocation
  return { home: home.id, choices, needsAccessible: needsStepFree(notice, answers), held: bitsOf(restrictions), kept: bitsOf(kept) }
}

/** How many cities a list may hold: what the question allows, or the costs name. */
export function mostChoices({ sections, allocation }: Notice): number {
  const most = sections.flatMap(s => s.questions).map(q => q.kind === 'cities' ? q.max : 0)
  return Math.max(allocation.choiceCosts.length, ...most)
}

/** A moment that the band counts down to. */
export interface KeyDate {
  code: 'opens' | 'closes' | 'payments' | 'corrections' | 'cards' | 'session'
  instant: string
}

/** The next key date after an instant, for the clock on the band; null after the last session. */
export function nextKeyDate(notice: Notice, at: Date): KeyDate | null {
  const first = [...notice.sessions].sort((a, b) => a.date.localeCompare(b.date))[0]
  const dates: KeyDate[] = [
    { code: 'opens', instant: notice.keyDates.opens },
    { code: 'closes', instant: notice.keyDates.closes },
    { code: 'payments', instant: notice.keyDates.lastPayment },
    { code: 'corrections', instant: notice.keyDates.correctionCloses },
    { code: 'cards', instant: notice.keyDates.cardsFrom },
    ...(first ? [{ code: 'session', instant: instantInZone(first.date, first.starts, notice.body.zone).toISOString() } as const] : []),
  ]
  return dates.filter(d => new Date(d.instant) > at).sort((a, b) => Date.parse(a.instant) - Date.parse(b.instant))[0] ?? null
}
