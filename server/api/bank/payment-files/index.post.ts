import { sendRefundsSchema } from '../../../../shared/bank'
import { route } from '../../../http/handle'
import { body } from '../../../http/input'
import { sendRefunds } from '../../../services/bank/refunds'

export default route(async ({ event, caller }) => sendRefunds(caller, (await body(event, sendRefundsSchema)).account))
