import { setResponseHeader } from 'h3'
import { idParam, route } from '../../../http/handle'
import { displayImage } from '../../../services/images/store'

export default route(async ({ event, context }) => {
  const jpeg = await displayImage(context, idParam(event))
  setResponseHeader(event, 'content-type', 'image/jpeg')
  // A version of an image never changes; only the browser of the person may keep it.
  setResponseHeader(event, 'cache-control', 'private, max-age=86400, immutable')
  return jpeg
})
