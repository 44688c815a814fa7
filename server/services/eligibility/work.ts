import { z } from 'zod'
import { defineWork } from '../../jobs/define'
import { proposeNotice } from '../notice/notices'
import { openReview, runReview } from './reviews'

/** All applications of a cycle judged again: under the notice in force, or under an amended one that is proposed with it. */
export const reviewWork = defineWork({
  kind: 'review', permission: 'notice.amend', input: z.object({ notice: z.unknown().optional() }),
  open: async (tx, context, cycle, jobId, { notice }) => {
    await openReview(tx, context, cycle, jobId, notice === undefined ? null : await proposeNotice(tx, context, cycle, notice))
  },
  run: (caller, { id, tell }) => runReview(caller, id, tell),
})
