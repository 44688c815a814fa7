import { bulkSchema } from '../../../../../shared/bulk'
import { route } from '../../../../http/handle'
import { body, textParam } from '../../../../http/input'
import { startWork } from '../../../../jobs/jobs'
import { runtime } from '../../../../runtime'

/** One act on everybody who matches: tried, or done. */
export default route(async ({ event, caller }) =>
  startWork(caller, await runtime().queue(), 'act-on-many', textParam(event, 'cycle'), await body(event, bulkSchema))
)
