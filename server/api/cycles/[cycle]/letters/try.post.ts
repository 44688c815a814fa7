import { letterTrialSchema } from '../../../../../shared/notice'
import { route } from '../../../../http/handle'
import { body, textParam } from '../../../../http/input'
import { tryLetter } from '../../../../services/letters/own-words'

export default route(async ({ event, caller }) => tryLetter(caller, textParam(event, 'cycle'), await body(event, letterTrialSchema)))
