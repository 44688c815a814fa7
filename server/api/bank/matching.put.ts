import { thresholdSchema } from '../../../shared/bank'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { setThreshold } from '../../services/bank/matching'

export default route(async ({ event, caller }) => {
  await setThreshold(caller, (await body(event, thresholdSchema)).threshold)
  return { done: true }
})
