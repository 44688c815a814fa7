import { bankAccountSchema } from '../../../../../shared/bank'
import { route } from '../../../../http/handle'
import { body, idParam } from '../../../../http/input'
import { putBankAccount } from '../../../../services/bank/accounts'

export default route(async ({ event, caller }) => {
  await putBankAccount(caller, idParam(event), await body(event, bankAccountSchema))
  return { done: true }
})
