import { addDays } from '../calendar/calendar-date'
import { dateInZone, instantInZone, type Zone } from '../calendar/zone'

/**
 * Hours of each day in which no message goes to a telephone: from a clock time on, and before another; over midnight where the second is
 * the earlier one.
 */
export interface QuietHours {
  from: string
  to: string
}

/** From when on a message may go to a telephone: the moment itself, or the end of the quiet hours that it lies in. */
export function afterQuiet(at: Date, zone: Zone, quiet: QuietHours | undefined): Date {
  if (!quiet) return at
  const today = dateInZone(at, zone)
  for (const day of [addDays(today, -1), today]) {
    const [from, to] = [instantInZone(day, quiet.from, zone), instantInZone(quiet.from < quiet.to ? day : addDays(day, 1), quiet.to, zone)]
    if (at >= from && at < to) return to
  }
  return at
}
