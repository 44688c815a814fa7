import { explainSchema } from '../../../../../shared/bank'
import { route } from '../../../../http/handle'
import { body, idParam } from '../../../../http/input'
import { explainLine } from '../../../../services/bank/lines'

export default route(async ({ event, caller }) => {
  await explainLine(caller, idParam(event), await body(event, explainSchema))
  return { done: true }
})
