import { csvMappingSchema } from '../../../../../shared/bank'
import { route } from '../../../../http/handle'
import { body, idParam } from '../../../../http/input'
import { setCsvMapping } from '../../../../services/bank/accounts'

export default route(async ({ event, caller }) => {
  await setCsvMapping(caller, idParam(event), await body(event, csvMappingSchema))
  return { done: true }
})
