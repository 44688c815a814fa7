import { permitSchema } from '../../../../../shared/acts'
import { route } from '../../../../http/handle'
import { body, oneOfParam, textParam } from '../../../../http/input'
import { startWork } from '../../../../jobs/jobs'
import { runtime } from '../../../../runtime'

/** Work that begins with nothing but its cycle. */
export default route(async ({ event, caller }) =>
  startWork(
    caller,
    await runtime().queue(),
    oneOfParam(event, 'kind', ['issue-cards', 'prove-counts', 'find-pairs', 'check-log']),
    textParam(event, 'cycle'),
    await body(event, permitSchema) ?? {},
  )
)
