import { idParam, limitedBytes, oneOfParam, route } from '../../../../http/handle'
import { addImage } from '../../../../services/images/store'
import { tooLarge, uploadLimitBytes } from '../../../../services/images/decode'
import { imageKinds } from '../../../../../core/notice/schema'

export default route(async ({ event, context }) => {
  const kind = oneOfParam(event, 'kind', imageKinds)
  return addImage(context, idParam(event), kind, await limitedBytes(event, uploadLimitBytes, tooLarge))
})
