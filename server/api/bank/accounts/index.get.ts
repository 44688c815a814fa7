import { route } from '../../../http/handle'
import { listBankAccounts } from '../../../services/bank/accounts'

export default route(({ caller }) => listBankAccounts(caller))
