import { route } from '../../http/handle'
import { publicKeys } from '../../services/cards/keys'

export default route(({ caller }) => publicKeys(caller))
