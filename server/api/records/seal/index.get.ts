import { route } from '../../../http/handle'
import { sealState } from '../../../services/records/seal'

export default route(({ caller }) => sealState(caller))
