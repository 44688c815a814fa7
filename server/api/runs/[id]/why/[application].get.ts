import { idParam, route } from '../../../../http/handle'
import { readWhy } from '../../../../services/centres/run-view'

export default route(({ event, context }) => readWhy(context, idParam(event), idParam(event, 'application')))
