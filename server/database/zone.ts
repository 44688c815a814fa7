import { sql, type SQL } from 'drizzle-orm'
import type { Zone } from '../../core/calendar/zone'

/** What a clock in the zone shows at the instants of a column, as a timestamp without zone. */
export const clockOf = (column: SQL, { timeZone, utcOffsetMinutes }: Zone): SQL =>
  timeZone === undefined
    ? sql`((${column} at time zone 'UTC') + ${`${utcOffsetMinutes} minutes`}::interval)`
    : sql`(${column} at time zone ${timeZone})`
