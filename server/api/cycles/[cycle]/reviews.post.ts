import { z } from 'zod'
import { route } from '../../../http/handle'
import { body, textParam } from '../../../http/input'
import { startReview } from '../../../jobs/jobs'
import { runtime } from '../../../runtime'

/** `notice` is an amended notice to judge under; without it, the one in force. */
const reviewInputSchema = z.object({ notice: z.unknown().optional() })

export default route(async ({ event, caller }) =>
  startReview(caller, await runtime().queue(), textParam(event, 'cycle'), (await body(event, reviewInputSchema)).notice))
