import { setResponseHeader } from 'h3'
import { z } from 'zod'
import { route } from '../../../http/handle'
import { idParam, query } from '../../../http/input'
import { displayImage } from '../../../services/images/views'

const pageSchema = z.object({ page: z.coerce.number().int().min(1).max(100).default(1) })

export default route(async ({ event, caller }) => {
  const jpeg = await displayImage(caller, idParam(event), (query(event, pageSchema)).page)
  setResponseHeader(event, 'content-type', 'image/jpeg')
  return jpeg
})
