import { payingSchema } from '../../../../../shared/acts'
import { route } from '../../../../http/handle'
import { body, idParam } from '../../../../http/input'
import { openPayment } from '../../../../services/fees/payments'
import { runtime } from '../../../../runtime'

export default route(async ({ event, caller }) =>
  openPayment(caller, runtime().gateway, idParam(event), await body(event, payingSchema) ?? {})
)
