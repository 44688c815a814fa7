import { barredJudgementSchema } from '../../../shared/barred'
import { route } from '../../http/handle'
import { body, idParam } from '../../http/input'
import { judgeBarred } from '../../services/barred/match'

export default route(async ({ event, caller }) => {
  await judgeBarred(caller, idParam(event), await body(event, barredJudgementSchema))
  return { judged: true }
})
