import { route } from '../../../http/handle'
import { textParam } from '../../../http/input'
import { showNotice } from '../../../services/notice/notices'

export default route(({ event, caller }) => showNotice(caller, textParam(event, 'cycle')))
