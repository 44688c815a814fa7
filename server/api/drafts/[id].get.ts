import { route } from '../../http/handle'
import { idParam } from '../../http/input'
import { readDraft } from '../../services/notice/drafts'

export default route(({ event, caller }) => readDraft(caller, idParam(event, 'id')))
