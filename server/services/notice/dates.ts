import { spellInstant } from '../../../core/calendar/zone'
import { withoutCentres } from '../../../core/notice/centres'
import type { MovedDates } from '../../../shared/notice'
import { refusal } from '../../../shared/refusal'
import { askToSettleMatters } from '../acts/matters-anew'
import type { Caller } from '../context'
import { refuseWhileOneWaits } from '../eligibility/take-over'
import { amendAtOnce, currentNotice } from './notices'

/**
 * Moves ends of periods later, at once and by one act with its reason: a version of the notice like any other amendment, but no verdict and
 * no fee hangs on these dates, so there is nothing to review. Drafts that the old close had ended are opened again by the clock.
 *
 * @throws ProblemError `dates.earlier` for a date that is no later than the one in force, and as any notice where the dates do not go
 * together.
 */
export async function moveDates(caller: Caller, code: string, { dates, reason }: MovedDates): Promise<{ version: number }> {
  const context = await caller.authorise('notice.amend', { cycle: code })
  return context.db.transaction(async (tx) => {
    await refuseWhileOneWaits(tx, code)
    const { notice } = await currentNotice(tx, code)
    for (const [key, to] of Object.entries(dates)) {
      const from = notice.keyDates[key as keyof typeof dates]
      const { partTitle, capital } = context.language.noticeParts
      if (Date.parse(to) <= Date.parse(from)) {
        throw refusal('dates.earlier', {
          date: capital(partTitle(key)),
          from: spellInstant(from, notice.body.zone),
          to: spellInstant(to, notice.body.zone),
        })
      }
    }
    if (Object.keys(dates).length === 0) throw refusal('dates.none')
    const document = withoutCentres(notice)
    const moved = await amendAtOnce(tx, context, { ...document, keyDates: { ...document.keyDates, ...dates } }, {
      act: 'move-dates',
      reason,
      before: pick(notice.keyDates, Object.keys(dates)),
      after: dates,
    })
    await askToSettleMatters(tx, context, notice.code, moved.version)
    return moved
  })
}

const pick = (from: object, keys: readonly string[]) => Object.fromEntries(Object.entries(from).filter(([key]) => keys.includes(key)))
