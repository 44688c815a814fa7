import { noticeLanguageSchema } from '../../../../shared/notice'
import { route } from '../../../http/handle'
import { idParam, query } from '../../../http/input'
import { readTexts } from '../../../services/applications/texts'

export default route(({ event, caller }) => readTexts(caller, idParam(event), query(event, noticeLanguageSchema).in ?? null), {
  asCandidate: true,
})
