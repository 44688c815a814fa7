import { route } from '../../../../../http/handle'
import { idParam, textParam } from '../../../../../http/input'
import { dropView } from '../../../../../services/roster/count'

export default route(async ({ event, caller }) => {
  await dropView(caller, textParam(event, 'cycle'), idParam(event, 'id'))
  return { done: true }
})
