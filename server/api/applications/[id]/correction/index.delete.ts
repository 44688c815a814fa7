import { route } from '../../../../http/handle'
import { idParam } from '../../../../http/input'
import { dropCorrection } from '../../../../services/corrections/draft'
import { readCorrection } from '../../../../services/corrections/view'

export default route(async ({ event, caller }) => {
  const id = idParam(event)
  await dropCorrection(caller, id)
  return readCorrection(caller, id)
})
