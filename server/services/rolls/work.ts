import { z } from 'zod'
import { refusal } from '../../../shared/refusal'
import { defineWork } from '../../jobs/define'
import { permitToBegin } from '../applications/begin'
import { log } from '../context'
import { currentNotice } from '../notice/notices'
import { handInRoll } from './hand-in'
import { enterRoll, tryRoll } from './pass'
import { idleRoll, tellsApart } from './rolls'

/** A nominal roll tried: what would become of each row. */
export const tryRollWork = defineWork({
  kind: 'try-roll',
  permission: 'rolls.enter',
  input: z.object({ roll: z.uuid() }),
  open: async (tx, _context, _cycle, job, { roll: id }) => {
    if (!tellsApart((await idleRoll(tx, id, job)).columns)) throw refusal('roll.no-key-column')
  },
  run: (caller, { input, tell }) => tryRoll(caller, input.roll, tell),
})

/** A roll entered, once it was tried; outside the dates of the notice with a reason. */
export const enterRollWork = defineWork({
  kind: 'enter-roll',
  permission: 'rolls.enter',
  input: z.object({ roll: z.uuid(), reason: z.string().optional() }),
  open: async (tx, context, cycle, job, { roll: id, reason }) => {
    const row = await idleRoll(tx, id, job)
    if (row.state === 'read') throw refusal('roll.not-tried')
    const { notice } = await currentNotice(tx, cycle)
    const isOutside = permitToBegin(context, notice, { reason, ...(reason === undefined ? {} : { outsideDates: true }) })
    await log(tx, context, 'enter-roll', {
      subject: { kind: 'cycle', id: cycle },
      cycle,
      reason,
      outsideDates: isOutside,
      after: { sender: row.sender, name: row.name, ...row.totals },
    })
  },
  run: (caller, { input, tell }) => enterRoll(caller, input.roll, tell, input.reason ?? null),
})

/** What a sender's rolls have brought handed in, as far as it is complete; outside the dates of the notice with a reason. */
export const handInRollWork = defineWork({
  kind: 'hand-in-roll',
  permission: 'rolls.enter',
  input: z.object({ roll: z.uuid(), reason: z.string().optional() }),
  open: async (tx, context, cycle, job, { roll: id, reason }) => {
    await idleRoll(tx, id, job)
    const { notice } = await currentNotice(tx, cycle)
    permitToBegin(context, notice, { reason, ...(reason === undefined ? {} : { outsideDates: true }) })
  },
  run: (caller, { input, tell }) => handInRoll(caller, input.roll, tell, input.reason ?? null),
})
