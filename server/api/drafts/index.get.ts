import { route } from '../../http/handle'
import { listDrafts } from '../../services/notice/drafts'

export default route(({ caller }) => listDrafts(caller))
