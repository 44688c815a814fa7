import { route } from '../../../http/handle'
import { bankStandin } from '../../../runtime'
import { listBankAccounts } from '../../../services/bank/accounts'

export default route(async ({ caller }) => {
  const bank = bankStandin()
  return { accounts: await listBankAccounts(caller), days: await bank.days() }
})
