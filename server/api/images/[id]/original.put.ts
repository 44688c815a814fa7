import { tooLarge, uploadLimitBytes } from '../../../../pictures/door'
import { route } from '../../../http/handle'
import { idParam, limitedBytes } from '../../../http/input'
import { keepOriginal } from '../../../services/images/store'

export default route(async ({ event, caller }) => {
  await keepOriginal(caller, idParam(event), await limitedBytes(event, uploadLimitBytes, tooLarge))
  return { kept: true }
})
