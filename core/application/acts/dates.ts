import { addDays } from '../../calendar/calendar-date'
import { dateInZone, instantInZone, spellInstant } from '../../calendar/zone'
import type { Notice, Post } from '../../notice/schema'
import type { RefusalReason } from '../../refusal/codes'

/**
 * The periods of a notice in which an act may be done. All are half open: what arrives at the very moment of the end is late.
 * `applications`: from opening to close. `payments`: until the last payment. `corrections`: until the end of the correction period.
 * `publication`: from the close on. `cards`: from the release of the cards on.
 */
export type Period = 'applications' | 'payments' | 'corrections' | 'publication' | 'cards'

/** Why an act may not be done at an instant, or null. `openUntil` is the moment until which one application was kept open longer. */
export function periodRefusal(notice: Notice, period: Period, at: Date, openUntil: Date | null = null): RefusalReason | null {
  const { zone } = notice.body
  const { opens, closes, lastPayment, correctionCloses, cardsFrom } = notice.keyDates
  const before = (instant: string) => at.getTime() < Date.parse(instant)
  const keptOpen = openUntil !== null && at < openUntil
  switch (period) {
    case 'applications':
      if (before(opens)) return { code: 'dates.not-open', parameters: { opens: spellInstant(opens, zone) } }
      return before(closes) || keptOpen ? null : { code: 'dates.closed', parameters: { closes: spellInstant(closes, zone) } }
    case 'payments':
      return before(lastPayment) || keptOpen
        ? null
        : { code: 'dates.payment-over', parameters: { lastPayment: spellInstant(lastPayment, zone) } }
    case 'corrections':
      return before(correctionCloses) || keptOpen
        ? null
        : { code: 'dates.correction-over', parameters: { until: spellInstant(correctionCloses, zone) } }
    case 'publication':
      return before(closes) ? { code: 'dates.before-close', parameters: { closes: spellInstant(closes, zone) } } : null
    case 'cards':
      return before(cardsFrom) ? { code: 'dates.before-cards', parameters: { cardsFrom: spellInstant(cardsFrom, zone) } } : null
  }
}

/**
 * When a post can be chosen at an instant: not `yet`, as its own opening lies ahead, or no `more`; null while it can. What arrives at the
 * very moment of its close is late.
 */
export function outOfTime({ opens, closes }: Pick<Post, 'opens' | 'closes'>, at: Date): 'not yet' | 'no more' | null {
  if (opens !== undefined && at.getTime() < Date.parse(opens)) return 'not yet'
  return closes !== undefined && at.getTime() >= Date.parse(closes) ? 'no more' : null
}

/** The chosen posts that cannot be chosen at an instant. */
export function postsOutOfTime(
  { posts }: Pick<Notice, 'posts'>,
  chosen: readonly string[],
  at: Date,
): { post: Post, when: 'not yet' | 'no more' }[] {
  return posts.flatMap((post) => {
    const when = chosen.includes(post.id) ? outOfTime(post, at) : null
    return when === null ? [] : [{ post, when }]
  })
}

/** Whether the form takes applications at an instant. */
export function isFormOpen(notice: Notice, at: Date): boolean {
  return periodRefusal(notice, 'applications', at) === null
}

/**
 * The moment before which a return must be answered: the end of the day that lies the notice's number of days ahead, in the body's
 * zone, and never after the correction period; after that period, when an officer returns all the same, the days alone count.
 */
export function answerUntil(notice: Notice, now: Date): Date {
  const { zone } = notice.body
  const days = instantInZone(addDays(dateInZone(now, zone), notice.outcomes.answerDays), '23:59', zone)
  const last = new Date(notice.keyDates.correctionCloses)
  return now < last && last < days ? last : days
}
