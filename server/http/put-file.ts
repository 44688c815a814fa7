import { getHeader } from 'h3'
import { tooLarge, uploadLimitBytes } from '../../pictures/door'
import { uploadNoteSchema } from '../../shared/pictures'
import { runtime } from '../runtime'
import { tellDifference } from '../services/images/agreement'
import { addImage } from '../services/images/store'
import { route } from './handle'
import { idParam, jsonHeader, limitedBytes, textParam } from './input'

/** Takes a file for a slot of an application, or for the correction of one that is being written. */
export const putFile = (forCorrection: boolean) =>
  route(async ({ event, caller }) => {
    const id = idParam(event)
    // Who may not do it is refused before the file is taken.
    await caller.authorise('applications.write', { application: id })
    const note = jsonHeader(getHeader(event, 'x-lucid-picture'), uploadNoteSchema)
    const bytes = await limitedBytes(event, uploadLimitBytes, tooLarge)
    const view = await addImage(caller, runtime().inspect, id, textParam(event, 'kind'), {
      bytes,
      edits: note?.edits,
      given: note?.given,
      forCorrection,
    })
    if (note) tellDifference(caller, view, note.verdicts)
    return view
  })
