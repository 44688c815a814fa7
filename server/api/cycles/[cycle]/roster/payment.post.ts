import { payListSchema } from '../../../../../shared/bulk'
import { route } from '../../../../http/handle'
import { body, textParam } from '../../../../http/input'
import { openForList } from '../../../../services/fees/together'
import { runtime } from '../../../../runtime'

export default route(async ({ event, caller }) =>
  openForList(caller, runtime().gateway, textParam(event, 'cycle'), await body(event, payListSchema))
)
