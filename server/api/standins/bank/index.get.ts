import { route } from '../../../http/handle'
import { bankStandin } from '../../../runtime'
import { listBankAccounts } from '../../../services/bank/accounts'

export default route(async ({ caller }) => {
  const accounts = await listBankAccounts(caller)
  return { accounts, days: await bankStandin().days() }
})
