import { reviewStartSchema } from '../../../shared/eligibility'
import { defineWork } from '../../jobs/define'
import { proposeNotice } from '../notice/notices'
import { runReview } from './review-run'
import { openReview } from './reviews'

/** All applications of a cycle judged again: under the notice in force, or under an amended one that is proposed with it. */
export const reviewWork = defineWork({
  kind: 'review',
  permission: 'notice.amend',
  input: reviewStartSchema,
  open: async (tx, context, cycle, jobId, asked) => {
    if (!('notice' in asked)) return openReview(tx, context, cycle, jobId, null)
    await openReview(tx, context, cycle, jobId, await proposeNotice(tx, context, cycle, asked.notice, asked.reason), asked.reason)
  },
  run: (caller, { id, tell }) => runReview(caller, id, tell),
})
