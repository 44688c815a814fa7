import { answerQuestionSchema } from '../../../../shared/questions'
import { route } from '../../../http/handle'
import { body, idParam } from '../../../http/input'
import { answerQuestion } from '../../../services/letters/questions'

export default route(async ({ event, caller }) => {
  await answerQuestion(caller, idParam(event), await body(event, answerQuestionSchema))
  return { done: true }
})
