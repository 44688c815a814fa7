import { z } from 'zod'
import { body, route, textParam } from '../../../http/handle'
import { startReview } from '../../../jobs/jobs'
import { runtime } from '../../../runtime'

/** `notice` is an amended notice to judge under; without it, the one in force. */
const reviewInputSchema = z.object({ notice: z.unknown().optional() })

export default route(async ({ event, context }) =>
  startReview(context, await runtime().queue(), textParam(event, 'cycle'), (await body(event, reviewInputSchema)).notice))
