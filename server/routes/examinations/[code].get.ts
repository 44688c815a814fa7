import { noticeLanguageSchema } from '../../../shared/notice'
import { publicRoute } from '../../http/handle'
import { query, textParam } from '../../http/input'
import { examinationPage } from '../../public/examinations'
import { sendPage } from '../../public/page'
import { readExamination } from '../../services/notice/examinations'

export default publicRoute(async ({ event, caller, language }) =>
  sendPage(
    event,
    language,
    examinationPage(language, await readExamination(caller, textParam(event, 'code'), query(event, noticeLanguageSchema).in ?? null)),
  )
)
