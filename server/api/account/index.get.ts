import { route } from '../../http/handle'
import { readAccount } from '../../services/people/account'

export default route(({ caller }) => readAccount(caller))
