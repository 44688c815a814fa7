import { sql, type SQL } from 'drizzle-orm'

/** Whether a bar holds an application: asked about or found true, not lifted, and its day not come (days in UTC). */
export const barHolds = (application: SQL): SQL =>
  sql`exists (select 1 from barred_match m join barred_person p on p.id = m.barred_id
  where m.application_id = ${application} and m.state in ('open', 'same') and p.lifted_at is null and (p.until is null or p.until > to_char(now() at time zone 'UTC', 'YYYY-MM-DD')))`
