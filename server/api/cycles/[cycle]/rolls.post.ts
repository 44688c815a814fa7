import { rollUploadSchema } from '../../../../shared/rolls'
import { refusal } from '../../../../shared/refusal'
import { tableBounds } from '../../../../tables/read'
import { route } from '../../../http/handle'
import { limitedBytes, query, textParam } from '../../../http/input'
import { takeRoll } from '../../../services/rolls/rolls'

export default route(async ({ event, caller }) => {
  const cycle = textParam(event, 'cycle')
  // Who may not do it is refused before the file is taken.
  await caller.authorise('rolls.enter', { cycle })
  const upload = query(event, rollUploadSchema)
  return takeRoll(
    caller,
    cycle,
    upload,
    await limitedBytes(event, tableBounds.bytes, () => refusal('table.size', { most: tableBounds.bytes / 1024 / 1024 })),
  )
})
