import { route } from '../../http/handle'
import { idParam } from '../../http/input'
import { confirmProposal } from '../../jobs/confirm'
import { runtime } from '../../runtime'

/** A second person confirms what somebody else began. */
export default route(async ({ event, caller }) => {
  await confirmProposal(caller, await runtime().queue(), idParam(event))
  return { confirmed: true }
})
