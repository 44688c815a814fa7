import { route } from '../../http/handle'
import { readCandidateAccount } from '../../services/candidates/account'

export default route(({ caller, session }) => readCandidateAccount(caller, session?.id ?? null))
