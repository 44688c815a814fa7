import type PgBoss from 'pg-boss'
import { isOnMany } from '../../core/application/acts/table'
import { roomsChangeSchema } from '../../shared/places'
import { readProposal } from '../services/acts/proposals'
import { confirmAct } from '../services/acts/named'
import { changeRooms } from '../services/centres/rooms'
import type { Caller } from '../services/context'
import { releaseErasing } from '../services/records/erase'
import { startPublishing } from './jobs'

/** Confirms what somebody else began, on an application, a run, rooms or a cycle; publishing goes on as work. */
export async function confirmProposal(caller: Caller, queue: PgBoss, id: string): Promise<void> {
  const { db } = await caller.authorise('roster.read')
  const found = await readProposal(db, id)
  if (!isOnMany(found.act)) return confirmAct(caller, id)
  if (found.act === 'change-rooms') {
    const asked = roomsChangeSchema.parse({ ...found.input, reason: found.reason })
    await changeRooms(caller, found.cycle, asked, 'do', { confirmed: { proposal: found.id, by: found.by } })
    return
  }
  if (found.act === 'release-erasing') {
    await releaseErasing(caller, found.cycle, { reason: found.reason, confirmed: { proposal: found.id, by: found.by } })
    return
  }
  await startPublishing(caller, queue, found.subject, {
    reason: found.reason || undefined,
    outsideDates: found.outsideDates || undefined,
    confirmed: { proposal: found.id, by: found.by },
  })
}
