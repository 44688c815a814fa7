import { route } from '../../../../http/handle'
import { idParam } from '../../../../http/input'
import { reconcilePayments } from '../../../../services/fees/payments'
import { runtime } from '../../../../runtime'

export default route(({ event, caller }) => reconcilePayments(caller, runtime().gateway, idParam(event)))
