import { idParam, route } from '../../../../http/handle'
import { reconcilePayments } from '../../../../services/fees/payments'
import { runtime } from '../../../../runtime'

export default route(({ event, context }) => reconcilePayments(context, runtime().gateway, idParam(event)))
