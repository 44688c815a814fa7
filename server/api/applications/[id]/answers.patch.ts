import { saveSheetSchema } from '../../../../shared/applications'
import { route } from '../../../http/handle'
import { body, idParam } from '../../../http/input'
import { saveAnswers } from '../../../services/applications/answers'

export default route(async ({ event, caller }) => {
  const { revision, changes, ...given } = await body(event, saveSheetSchema)
  return saveAnswers(caller, idParam(event), { revision, changes }, given)
})
