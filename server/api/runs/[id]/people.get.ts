import { runPeopleSchema } from '../../../../shared/centres'
import { route } from '../../../http/handle'
import { idParam, query } from '../../../http/input'
import { readRunPeople } from '../../../services/centres/run-view'

export default route(async ({ event, caller }) => readRunPeople(caller, idParam(event), query(event, runPeopleSchema)))
