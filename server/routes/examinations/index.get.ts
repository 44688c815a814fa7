import { publicRoute } from '../../http/handle'
import { examinationsPage } from '../../public/examinations'
import { sendPage } from '../../public/page'
import { listExaminations } from '../../services/notice/examinations'

export default publicRoute(async ({ event, caller, language }) =>
  sendPage(event, language, examinationsPage(language, await listExaminations(caller)))
)
