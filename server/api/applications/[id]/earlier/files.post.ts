import { earlierFileSchema } from '../../../../../shared/earlier'
import { route } from '../../../../http/handle'
import { body, idParam } from '../../../../http/input'
import { runtime } from '../../../../runtime'
import { takeFileOver } from '../../../../services/applications/earlier'

export default route(async ({ event, caller }) =>
  takeFileOver(caller, runtime().inspect, idParam(event), await body(event, earlierFileSchema))
)
