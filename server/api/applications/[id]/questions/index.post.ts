import { askSchema } from '../../../../../shared/questions'
import { route } from '../../../../http/handle'
import { body, idParam } from '../../../../http/input'
import { askOffice, questionsOf } from '../../../../services/letters/questions'

export default route(async ({ event, caller }) => {
  const id = idParam(event)
  await askOffice(caller, id, await body(event, askSchema))
  return questionsOf(caller, id)
})
