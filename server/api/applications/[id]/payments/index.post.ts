import { idParam, route } from '../../../../http/handle'
import { openPayment } from '../../../../services/fees/payments'
import { runtime } from '../../../../runtime'

export default route(({ event, context }) => openPayment(context, runtime().gateway, idParam(event)))
