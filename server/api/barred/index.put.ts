import { refusal } from '../../../shared/refusal'
import { route } from '../../http/handle'
import { limitedBytes } from '../../http/input'
import { takeBarredList } from '../../services/barred/people'

const most = 8 * 1024 * 1024

export default route(async ({ event, caller }) => {
  // Who may not do it is refused before the file is taken.
  await caller.authorise('barred.write')
  return takeBarredList(caller, Buffer.from(await limitedBytes(event, most, () => refusal('statement.size', { most: most / 1024 / 1024 }))))
})
