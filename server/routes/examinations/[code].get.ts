import { publicRoute } from '../../http/handle'
import { textParam } from '../../http/input'
import { examinationPage } from '../../public/examinations'
import { sendPage } from '../../public/page'
import { readExamination } from '../../services/notice/examinations'

export default publicRoute(async ({ event, caller, language }) => sendPage(event, language, examinationPage(language, await readExamination(caller, textParam(event, 'code')))))
