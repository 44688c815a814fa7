import { handoutTitleSchema } from '../../../../../shared/notice'
import { refusal } from '../../../../../shared/refusal'
import { route } from '../../../../http/handle'
import { limitedBytes, query, textParam } from '../../../../http/input'
import { addHandout, handoutAtMostMegabytes } from '../../../../services/notice/handouts'

export default route(async ({ event, caller }) => {
  const cycle = textParam(event, 'cycle')
  // Who may not do it is refused before the file is taken.
  await caller.authorise('notice.amend', { cycle })
  const { title } = query(event, handoutTitleSchema)
  const bytes = await limitedBytes(
    event,
    handoutAtMostMegabytes * 1024 * 1024,
    () => refusal('handout.size', { most: handoutAtMostMegabytes }),
  )
  return addHandout(caller, cycle, title, bytes)
})
