import { sql } from 'drizzle-orm'
import type { Executor } from '../../database/client'
import type { Context } from '../context'

/**
 * Marks whoever a run gave a city for the first time as placed, in one statement whatever their number: the headline stays, the run's row
 * of the log tells the act, and `run_placement` holds it person by person. What was open for want of a place is now open for want of
 * publishing.
 */
export async function markPlaced(tx: Executor, context: Context, runId: string): Promise<void> {
  const now = context.now().toISOString()
  await tx.execute(sql`
    with placed as (
      update application a set placement = 'placed', updated_at = ${now}::timestamptz
      from run_placement p where p.run_id = ${runId} and p.city is not null and a.id = p.application_id and a.placement = 'unplaced' and a.form = 'submitted' and a.scrutiny = 'accepted'
      returning a.id, a.cycle
    ), cleared as (
      update open_matter m set cleared_at = ${now}::timestamptz, cleared_by = ${context.principal.id}::uuid
      from placed where m.application_id = placed.id and m.kind = 'placement' and m.cleared_at is null
    )
    insert into open_matter (id, application_id, cycle, kind, about, owner, holds, parameters, since)
    select gen_random_uuid(), id, cycle, 'publication', '', 'officer', 'seat', '{}'::jsonb, ${now}::timestamptz from placed`)
}
