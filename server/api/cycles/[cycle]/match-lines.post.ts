import { route } from '../../../http/handle'
import { textParam } from '../../../http/input'
import { startWork } from '../../../jobs/jobs'
import { runtime } from '../../../runtime'
import { matchLinesWork } from '../../../services/bank/work'

export default route(async ({ event, caller }) =>
  startWork(caller, await runtime().queue(), matchLinesWork.kind, textParam(event, 'cycle'), {})
)
