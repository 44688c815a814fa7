import { route } from '../../../../http/handle'
import { idParam } from '../../../../http/input'
import { seeLetter } from '../../../../services/letters/seen'

export default route(async ({ event, caller }) => {
  await seeLetter(caller, idParam(event))
  return { done: true }
})
