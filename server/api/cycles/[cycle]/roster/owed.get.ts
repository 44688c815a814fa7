import { rosterFilterSchema } from '../../../../../shared/applications'
import { route } from '../../../../http/handle'
import { query, textParam } from '../../../../http/input'
import { owedByList } from '../../../../services/fees/together'

export default route(({ event, caller }) => owedByList(caller, textParam(event, 'cycle'), query(event, rosterFilterSchema)))
