import { billSchema } from '../../../shared/bills'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { billTogether } from '../../services/bank/bills'

export default route(async ({ event, caller }) => billTogether(caller, await body(event, billSchema)))
