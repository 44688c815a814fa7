import { draftSchema } from '../../../shared/notice'
import { route } from '../../http/handle'
import { body, idParam } from '../../http/input'
import { keepDraft } from '../../services/notice/drafts'

export default route(async ({ event, caller }) => keepDraft(caller, idParam(event, 'id'), await body(event, draftSchema)))
