import { route } from '../../../http/handle'
import { textParam } from '../../../http/input'
import { listProposals } from '../../../services/acts/proposals'

export default route(({ event, caller }) => listProposals(caller, textParam(event, 'cycle')))
