import { tooLarge, uploadLimitBytes } from '../../../../pictures/door'
import { idParam, limitedBytes, route } from '../../../http/handle'
import { keepOriginal } from '../../../services/images/store'

export default route(async ({ event, context }) => {
  await keepOriginal(context, idParam(event), await limitedBytes(event, uploadLimitBytes, tooLarge))
  return { kept: true }
})
