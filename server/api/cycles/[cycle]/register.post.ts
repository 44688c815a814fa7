import { registerModeSchema } from '../../../../shared/places'
import { tableBounds } from '../../../../tables/read'
import { refusal } from '../../../../shared/refusal'
import { route } from '../../../http/handle'
import { limitedBytes, query, textParam } from '../../../http/input'
import { registerFromFile } from '../../../services/centres/register-file'

export default route(async ({ event, caller }) => {
  const { mode } = query(event, registerModeSchema)
  const bytes = await limitedBytes(event, tableBounds.bytes, () => refusal('table.size', { most: tableBounds.bytes / 1024 / 1024 }))
  return registerFromFile(caller, textParam(event, 'cycle'), bytes, mode)
})
