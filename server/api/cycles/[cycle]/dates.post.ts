import { movedDatesSchema } from '../../../../shared/notice'
import { route } from '../../../http/handle'
import { body, textParam } from '../../../http/input'
import { moveDates } from '../../../services/notice/dates'

export default route(async ({ event, caller }) => moveDates(caller, textParam(event, 'cycle'), await body(event, movedDatesSchema)))
