import { idParam, route } from '../../../http/handle'
import { readRun } from '../../../services/centres/run-view'

export default route(({ event, context }) => readRun(context, idParam(event)))
