import { noticeLanguageSchema } from '../../../../shared/notice'
import { route } from '../../../http/handle'
import { query, textParam } from '../../../http/input'
import { showNotice } from '../../../services/notice/notices'

export default route(({ event, caller }) => showNotice(caller, textParam(event, 'cycle'), query(event, noticeLanguageSchema).in ?? null))
