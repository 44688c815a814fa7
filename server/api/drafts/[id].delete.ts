import { route } from '../../http/handle'
import { idParam } from '../../http/input'
import { dropDraft } from '../../services/notice/drafts'

export default route(({ event, caller }) => dropDraft(caller, idParam(event, 'id')))
