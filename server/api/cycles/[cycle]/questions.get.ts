import { questionListSchema } from '../../../../shared/questions'
import { route } from '../../../http/handle'
import { query, textParam } from '../../../http/input'
import { waitingQuestions } from '../../../services/letters/questions'

export default route(({ event, caller }) => waitingQuestions(caller, textParam(event, 'cycle'), query(event, questionListSchema)))
