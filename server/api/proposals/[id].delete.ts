import { route } from '../../http/handle'
import { idParam } from '../../http/input'
import { withdrawProposal } from '../../services/acts/proposals'

export default route(async ({ event, caller }) => {
  await withdrawProposal(caller, idParam(event))
  return { withdrawn: true }
})
