import { rosterViewSchema } from '../../../../../../shared/applications'
import { route } from '../../../../../http/handle'
import { body, idParam, textParam } from '../../../../../http/input'
import { keepView } from '../../../../../services/roster/count'

export default route(async ({ event, caller }) => {
  await keepView(caller, textParam(event, 'cycle'), idParam(event, 'id'), await body(event, rosterViewSchema))
  return { done: true }
})
