import { z } from 'zod'
import { defineWork } from '../../jobs/define'
import { issueCards } from './issue'

export const cardsWork = defineWork({
  kind: 'issue-cards',
  permission: 'cards.issue',
  input: z.object({ reason: z.string().max(1000).optional(), outsideDates: z.boolean().optional() }),
  run: async (caller, { cycle, input, tell }) => ({ ...await issueCards(caller, cycle, input, tell) }),
})
