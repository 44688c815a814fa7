import { route } from '../../../http/handle'
import { readRefunds } from '../../../services/bank/refunds'

export default route(({ caller }) => readRefunds(caller))
