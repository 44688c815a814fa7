import { route } from '../../http/handle'
import { listCycles } from '../../services/notice/notices'

export default route(({ caller }) => listCycles(caller))
