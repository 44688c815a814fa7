import { route } from '../../../../http/handle'
import { idParam } from '../../../../http/input'
import { readWhy } from '../../../../services/centres/run-view'

export default route(({ event, caller }) => readWhy(caller, idParam(event), idParam(event, 'application')))
