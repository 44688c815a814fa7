import { route } from '../../http/handle'
import { readOwn } from '../../services/candidates/own'

export default route(({ caller }) => readOwn(caller), { asCandidate: true })
