import { route, textParam } from '../../../http/handle'
import { showNotice } from '../../../services/notice/notices'

export default route(({ event, context }) => showNotice(context, textParam(event, 'cycle')))
