import type PgBoss from 'pg-boss'
import { readProposal } from '../services/acts/proposals'
import { confirmAct } from '../services/acts/named'
import type { Caller } from '../services/context'
import { startPublishing } from './jobs'

/** Confirms what somebody else began, on an application or on a run; publishing goes on as work. */
export async function confirmProposal(caller: Caller, queue: PgBoss, id: string): Promise<void> {
  const { db } = await caller.authorise('roster.read')
  const found = await readProposal(db, id)
  if (found.act !== 'publish-run') return confirmAct(caller, id)
  await startPublishing(caller, queue, found.subject, { reason: found.reason || undefined, outsideDates: found.outsideDates || undefined, confirmed: { proposal: found.id, by: found.by } })
}
