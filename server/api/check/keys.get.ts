import { route } from '../../http/handle'
import { publicKeys } from '../../services/cards/issue'

export default route(({ context }) => publicKeys(context))
