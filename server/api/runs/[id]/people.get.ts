import { runPeopleSchema } from '../../../../shared/centres'
import { idParam, query, route } from '../../../http/handle'
import { readRunPeople } from '../../../services/centres/run-view'

export default route(async ({ event, context }) => readRunPeople(context, idParam(event), await query(event, runPeopleSchema)))
