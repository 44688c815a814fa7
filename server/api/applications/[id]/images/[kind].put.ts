import { getHeader } from 'h3'
import { tooLarge, uploadLimitBytes } from '../../../../../pictures/door'
import { uploadNoteSchema } from '../../../../../shared/pictures'
import { idParam, jsonHeader, limitedBytes, textParam, route } from '../../../../http/handle'
import { measureLater } from '../../../../jobs/jobs'
import { runtime } from '../../../../runtime'
import { tellDifference } from '../../../../services/images/agreement'
import { addImage } from '../../../../services/images/store'

export default route(async ({ event, context }) => {
  const kind = textParam(event, 'kind')
  const note = jsonHeader(getHeader(event, 'x-lucid-picture'), uploadNoteSchema)
  const bytes = await limitedBytes(event, uploadLimitBytes, tooLarge)
  const { inspect, queue } = runtime()
  const view = await addImage(context, inspect, idParam(event), kind, { bytes, edits: note?.edits }, async imageId => measureLater(await queue(), imageId))
  if (note) tellDifference(context, view, note.verdicts)
  return view
})
