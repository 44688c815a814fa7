import { route } from '../../../http/handle'
import { idParam } from '../../../http/input'
import { sendPdf } from '../../../http/pdf'
import { billPaper } from '../../../services/bank/bill-paper'

export default route(async ({ event, caller }) => sendPdf(event, await billPaper(caller, idParam(event))))
