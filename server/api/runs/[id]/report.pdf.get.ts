import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { sendPdf } from '../../../http/pdf'
import { runReport } from '../../../services/centres/report'

export default route(async ({ event, caller }) => sendPdf(event, await runReport(caller, idParam(event))))
