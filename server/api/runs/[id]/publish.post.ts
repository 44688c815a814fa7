import { permitSchema } from '../../../../shared/acts'
import { route } from '../../../http/handle'
import { body, idParam } from '../../../http/input'
import { startPublishing } from '../../../jobs/jobs'
import { runtime } from '../../../runtime'

export default route(async ({ event, caller }) =>
  startPublishing(caller, await runtime().queue(), idParam(event), await body(event, permitSchema) ?? {})
)
