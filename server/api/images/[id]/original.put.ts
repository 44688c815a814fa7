import { tooLarge, uploadLimitBytes } from '../../../../pictures/door'
import { route } from '../../../http/handle'
import { idParam, limitedBytes } from '../../../http/input'
import { keepOriginal, refuseForeignImage } from '../../../services/images/store'

export default route(async ({ event, caller }) => {
  const id = idParam(event)
  await refuseForeignImage(caller, id)
  await keepOriginal(caller, id, await limitedBytes(event, uploadLimitBytes, tooLarge))
  return { kept: true }
})
